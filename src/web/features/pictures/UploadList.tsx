import classes from "./PicturesRoom.module.css";
import type { Upload } from "./useUploads";

/** Files on their way, each with how far it is or why it was not taken. */
export function UploadList({ uploads, onForget }: { uploads: Upload[]; onForget: (id: string) => void }) {
  if (uploads.length === 0) {
    return null;
  }
  return (
    <ul className={classes.uploads} aria-label="Uploads">
      {uploads.map((upload) => (
        <li key={upload.id} data-fault={upload.fault !== undefined}>
          <span>{upload.name}</span>
          {upload.fault ? (
            <>
              <span role="alert">■ {upload.fault}</span>
              <button type="button" className="plain underlined" onClick={() => onForget(upload.id)}>
                Clear
              </button>
            </>
          ) : upload.picture ? (
            <span className="soft">Saved</span>
          ) : (
            <>
              <progress aria-label={`Sending ${upload.name}`} max={1} value={upload.sent < 1 ? upload.sent : undefined} />
              <span className="soft">{upload.sent < 1 ? `${Math.round(upload.sent * 100)} %` : "making its sizes"}</span>
            </>
          )}
        </li>
      ))}
    </ul>
  );
}
