import classes from "./MailThumbnail.module.css";

/** An email, template or row as it is compiled, made small. The frame runs no script and takes no focus. */
export function MailThumbnail({ src, width, height, label }: { src: string; width: number; height: number; label: string }) {
  const scale = width / 640;
  return (
    <div className={classes.sheet} style={{ width, height }}>
      <iframe
        src={src}
        title={label}
        sandbox=""
        loading="lazy"
        tabIndex={-1}
        inert
        style={{ width: 640, height: height / scale, transform: `scale(${scale})` }}
      />
    </div>
  );
}
