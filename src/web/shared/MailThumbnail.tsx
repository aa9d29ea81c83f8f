import classes from "./MailThumbnail.module.css";

interface Props {
  src: string;
  width: number;
  height: number;
  label: string;
  /** CSS pixels of the screen it is seen on. */
  screen?: number;
}

/** An email, template or row as it is compiled, made small. The frame runs no script and takes no focus. */
export function MailThumbnail({ src, width, height, label, screen = 640 }: Props) {
  const scale = width / screen;
  return (
    <div className={classes.sheet} style={{ width, height }}>
      <iframe
        src={src}
        title={label}
        sandbox=""
        loading="lazy"
        tabIndex={-1}
        inert
        style={{ width: screen, height: height / scale, transform: `scale(${scale})` }}
      />
    </div>
  );
}
