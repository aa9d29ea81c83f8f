import { useCampaignTypes } from "../../shared/useCampaignTypes";
import classes from "./ChecksRoom.module.css";
import { LinkTags } from "./LinkTags";

/** What the links of each campaign type get when an email goes out, so that nobody writes it on each link. */
export function LinkTagsSheet({ mayChange }: { mayChange: boolean }) {
  const types = useCampaignTypes();
  return (
    <section aria-label="Link tracking" className={classes.tagsSheet}>
      <p className={classes.about}>
        Names and values that addresses get when an email goes out. A value may name {"{campaign}"}, {"{type}"}, {"{day}"} and {"{row}"}.
        What an address has already stays; ways out and “view in browser” are left alone.
      </p>
      {types.all.map((type) => (
        <section key={type.key} className={classes.typeTags} aria-label={type.name}>
          <h2>{type.name}</h2>
          <LinkTags type={type} mayChange={mayChange} />
        </section>
      ))}
    </section>
  );
}
