import { useState } from "react";
import type { ContrastEntry } from "../../api/types";
import classes from "./ContrastTable.module.css";
import { Remedies } from "./Remedies";
import { useRoom } from "./RoomContext";

const nameOf = (pair: ContrastEntry) => `${pair.text} on ${pair.background}`;

/** Each text colour on each background it lands on: ratio and verdict, as the server measured them. */
export function ContrastTable() {
  const { style } = useRoom();
  const [dark, setDark] = useState(false);
  const [chosen, setChosen] = useState<string>();
  const pairs = style.contrast.filter((c) => c.dark === dark);
  const areas = pairs.filter((p) => p.background.endsWith(" area"));
  const others = pairs.filter((p) => !p.background.endsWith(" area"));
  const backgrounds = [...new Set(areas.map((p) => p.background))];
  const texts = [...new Set(areas.map((p) => p.text))];
  const failing = pairs.filter((p) => !p.passes);
  const unseen = style.contrast.filter((c) => c.dark !== dark && !c.passes).length;
  const remedied = failing.find((p) => nameOf(p) === chosen) ?? failing[0];
  const cell = (pair?: ContrastEntry) =>
    pair && <Ratio key={nameOf(pair)} pair={pair} chosen={pair === remedied} onChoose={() => setChosen(nameOf(pair))} />;
  return (
    <section>
      <h2 className={classes.title}>Contrast</h2>
      <p className="soft">
        Ratio of every text colour on every background it meets. Large text needs 3, other text 4.5.{" "}
        <button type="button" className="plain underlined" aria-pressed={dark} onClick={() => setDark(!dark)}>
          {dark ? "Show light" : "Show dark"}
        </button>
        {unseen > 0 && (
          <span className={classes.unseen}>
            {" "}
            ■ {unseen} in {dark ? "light" : "dark"}
          </span>
        )}
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
              {backgrounds.map(
                (background) => cell(areas.find((p) => p.text === text && p.background === background)) ?? <td key={background} />,
              )}
            </tr>
          ))}
        </tbody>
      </table>
      {others.length > 0 && (
        <table className={`${classes.table} ${classes.own}`}>
          <caption>With a background of their own</caption>
          <tbody>
            {others.map((pair) => (
              <tr key={pair.background}>
                <th scope="row">{pair.background}</th>
                {cell(pair)}
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {remedied && <Remedies pair={remedied} />}
    </section>
  );
}

// Where the pair passes, the figure itself is the sample; where it does not, the figure has to be read beside it.
function Ratio({ pair, chosen, onChoose }: { pair: ContrastEntry; chosen: boolean; onChoose: () => void }) {
  const colours = { background: pair.backgroundColour, color: pair.textColour };
  if (pair.passes) {
    return (
      <td className={classes.ratio} style={colours}>
        {pair.ratio.toFixed(1)}
      </td>
    );
  }
  return (
    <td className={classes.ratio} data-passes={false} data-chosen={chosen}>
      <button type="button" className="plain" onClick={onChoose} aria-pressed={chosen}>
        <span className={classes.sample} style={colours} aria-hidden>
          Aa
        </span>
        <span aria-hidden>■</span>
        <span className="only-heard">{nameOf(pair)}:</span> {pair.ratio.toFixed(2)}{" "}
        <span className={classes.needs}>needs {pair.needed}</span>
      </button>
    </td>
  );
}
