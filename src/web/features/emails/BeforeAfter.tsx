import { MailThumbnail } from "../../shared/MailThumbnail";
import classes from "./BeforeAfter.module.css";

interface Side {
  name: string;
  src: string;
}

/** Two states of one email beside one another. */
export function BeforeAfter({ before, after }: { before: Side; after: Side }) {
  return (
    <div className={classes.sides}>
      {[before, after].map((side) => (
        <figure key={side.name}>
          <figcaption>{side.name}</figcaption>
          {/* biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls has to be reached by keyboard (WCAG 2.1.1). */}
          <div className={classes.scroll} role="group" aria-label={`${side.name}, scrolling`} tabIndex={0}>
            <MailThumbnail src={side.src} width={350} height={1500} label={side.name} />
          </div>
        </figure>
      ))}
    </div>
  );
}
