import type { DeskRow } from "../../../api/types";
import classes from "./RowSchematic.module.css";

const width = 46;

/** A tiny drawing of a row, made from its structure. */
export function RowSchematic({ row }: { row: Pick<DeskRow, "columns" | "surface"> }) {
  const total = row.columns.reduce((sum, c) => sum + c.parts, 0);
  let left = 4;
  const shapes: React.ReactNode[] = [];
  for (const [index, column] of row.columns.entries()) {
    const own = ((width - 8) * column.parts) / total - (row.columns.length > 1 ? 2 : 0);
    let top = 4;
    for (const block of column.blocks) {
      const key = `${index}-${block.id}`;
      if (block.drawing === "picture") {
        const high = row.columns.length > 1 ? 14 : row.surface === "strong" ? 8 : 10;
        const inset = row.surface === "strong" ? own / 3 : 0;
        shapes.push(<rect key={key} x={left + inset} y={top} width={own - 2 * inset} height={high} className={classes.picture} />);
        top += high + 2.5;
      } else if (block.drawing === "button") {
        shapes.push(<rect key={key} x={left + own / 3} y={top} width={own / 3} height={3.4} className={classes.button} />);
        top += 5.5;
      } else if (block.drawing === "heading") {
        shapes.push(<rect key={key} x={left} y={top} width={own * 0.85} height={2.4} className={classes.heading} />);
        top += 5;
      } else {
        shapes.push(<path key={key} d={`M${left} ${top + 0.6}h${own}M${left} ${top + 3.4}h${own * 0.7}`} className={classes.text} />);
        top += 6.5;
      }
    }
    left += own + 4;
  }
  return (
    <svg className={classes.drawing} data-surface={row.surface} viewBox={`0 0 ${width} 24`} width={width} height={24} aria-hidden="true">
      {shapes}
    </svg>
  );
}
