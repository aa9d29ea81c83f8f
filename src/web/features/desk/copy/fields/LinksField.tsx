import classes from "./fields.module.css";
import { LineInput } from "./LineInput";

interface Link {
  name: string;
  href: string;
}

/** Named links in order. */
export function LinksField({
  id,
  label,
  links,
  resolved,
  onChange,
}: {
  id: string;
  label: string;
  links: Link[];
  /** The same with brand variables filled in; undefined: there are none. */
  resolved?: Link[];
  onChange: (links: Link[]) => void;
}) {
  const set = (index: number, change: Partial<Link>) => onChange(links.map((l, i) => (i === index ? { ...l, ...change } : l)));
  return (
    <fieldset className={classes.links}>
      <legend className={classes.label}>{label}</legend>
      {links.map((link, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: links have no other identity than their place.
        <div key={index} className={classes.linkPair}>
          <LineInput id={`${id}-${index}-name`} label={`Name ${index + 1}`} value={link.name} onChange={(name) => set(index, { name })} />
          <LineInput
            id={`${id}-${index}-href`}
            label="Leads to"
            type="url"
            value={link.href}
            comesTo={resolved && resolved[index]?.href !== link.href ? resolved[index]?.href : undefined}
            onChange={(href) => set(index, { href: href.trim() })}
          />
          <button type="button" className="plain underlined" onClick={() => onChange(links.filter((_, i) => i !== index))}>
            Take {link.name || "it"} out
          </button>
        </div>
      ))}
      <button type="button" className="plain underlined" onClick={() => onChange([...links, { name: "", href: "" }])}>
        Add a link
      </button>
    </fieldset>
  );
}
