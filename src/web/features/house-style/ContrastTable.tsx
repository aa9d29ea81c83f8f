import { useState } from "react";
import type { HouseStyle } from "../../api/types";
import classes from "./ContrastTable.module.css";

/** Each text colour on each background it lands on: ratio and verdict, as the server measured them. */
export function ContrastTable({ style }: { style: HouseStyle }) {
  const [dark, setDark] = useState(false);
  const pairs = style.contrast.filter((c) => c.dark === dark);
  const backgrounds = [...new Set(pairs.filter((p) => p.text !== "Button text").map((p) => p.background))];
  const texts = [...new Set(pairs.map((p) => p.text))].filter((t) => t !== "Button text");
  const buttons = pairs.filter((p) => p.text === "Button text");
  return (
    <section>
      <h2 className={classes.title}>What can be read on what</h2>
      <p className="soft">
        Ratio of every text colour on every background it meets. Large text needs 3, other text 4.5.{" "}
        <button type="button" className="plain underlined" aria-pressed={dark} onClick={() => setDark(!dark)}>
          {dark ? "Show light" : "Show dark"}
        </button>
      </p>
      <table className={classes.table}>
        <thead>
          <tr>
            <td />
            {backgrounds.map((background) => (
              <th key={background} scope="col">
                {background.replace(" area", "")}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {texts.map((text) => (
            <tr key={text}>
              <th scope="row">{text}</th>
              {backgrounds.map((background) => {
                const pair = pairs.find((p) => p.text === text && p.background === background);
                return pair ? <Ratio key={background} pair={pair} /> : <td key={background} />;
              })}
            </tr>
          ))}
          {buttons.map((pair) => (
            <tr key={pair.background}>
              <th scope="row" colSpan={backgrounds.length}>
                {pair.background}
              </th>
              <Ratio pair={pair} />
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

// Where the pair passes, the figure itself is the sample; where it does not, the figure has to be read beside it.
function Ratio({ pair }: { pair: HouseStyle["contrast"][number] }) {
  const colours = { background: pair.backgroundColour, color: pair.textColour };
  if (pair.passes) {
    return (
      <td className={classes.ratio} style={colours}>
        {pair.ratio.toFixed(1)}
      </td>
    );
  }
  return (
    <td className={classes.ratio} data-passes={false}>
      <span className={classes.sample} style={colours} aria-hidden>
        Aa
      </span>
      <span aria-hidden>■</span> {pair.ratio.toFixed(2)}
      <span className={classes.needs}>needs {pair.needed}</span>
    </td>
  );
}
