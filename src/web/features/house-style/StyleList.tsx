import { useEffect } from "react";
import { countOf } from "../../shared/format";
import { PropertyEditor } from "./PropertyEditor";
import { useRoom } from "./RoomContext";
import classes from "./ValueList.module.css";

/** Global styles, each property written in a brand variable or, flagged, as a plain value. */
export function StyleList() {
  const { style, open, show } = useRoom();
  // Whoever comes from elsewhere lands at the property itself.
  useEffect(() => {
    const property = open.property && document.getElementById(`property-${open.style}-${open.property}`);
    if (property) {
      property.scrollIntoView({ block: "center" });
      property.querySelector<HTMLElement>("select, input")?.focus({ preventScroll: true });
    }
  }, [open]);
  return (
    <section className={classes.group}>
      {style.styles.map((entry) => {
        const isOpen = open.style === entry.name;
        const own = entry.properties.filter((p) => p.written != null).length;
        const plain = entry.properties.filter((p) => p.literal).length;
        return (
          <div key={entry.name}>
            <button
              type="button"
              className={`plain ${classes.entry}`}
              aria-expanded={isOpen}
              onClick={() => show({ tab: "styles", style: isOpen ? undefined : entry.name })}
            >
              <span className={classes.name}>
                {entry.label}
                {style.release > 0 && entry.properties.some((p) => p.changed) && <i> changed</i>}
              </span>
              <span className={classes.figure}>
                {plain > 0 && <span className={classes.flag}>▲ {countOf(plain, "plain value")}, </span>}
                {own > 0 ? `${own} of ${entry.properties.length} set` : style.parent ? "inherited" : "as usual"}
              </span>
            </button>
            {isOpen && (
              <div className={classes.editor}>
                {entry.properties.map((property) => (
                  <PropertyEditor key={property.name} name={entry.name} property={property} />
                ))}
              </div>
            )}
          </div>
        );
      })}
    </section>
  );
}
