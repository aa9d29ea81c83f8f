/** What the desk draws over a proof: where a block goes in, and where one may be added. */
export interface ProofMarks {
  /** Where the next block goes: after a piece, before one, or into the row. */
  place?: { row: string; after?: string; before?: string };
  /** A row that blocks may be added to. */
  addTo?: string;
  /** It holds nothing yet: it is drawn as a place to begin. */
  empty?: boolean;
}

const style = `
#desk-marks{position:absolute;left:0;top:0;width:100%;height:0;z-index:1}
#desk-marks>*{position:absolute;box-sizing:border-box;font:600 15px 'Helvetica Neue',Arial,sans-serif}
.desk-place{border-top:3px solid #3A5A7D;height:0;pointer-events:none}
.desk-place span{position:absolute;right:10px;top:-14px;background:#3A5A7D;color:#fff;padding:3px 10px;white-space:nowrap}
.desk-add{background:#7A5510;color:#fff;border:0;padding:4px 12px;cursor:pointer}
.desk-empty{background:#FBF4E4;color:#7A5510;border:2px dashed #A9781C;cursor:pointer;display:grid;place-items:center}
`;

/** Draws the marks anew; the email under them is not touched. */
export function drawMarks(page: Document, marks: ProofMarks) {
  page.getElementById("desk-marks")?.remove();
  if (!marks.place && !marks.addTo) {
    return;
  }
  if (!page.getElementById("desk-marks-style")) {
    const sheet = page.createElement("style");
    sheet.id = "desk-marks-style";
    sheet.textContent = style;
    page.head.append(sheet);
  }
  const layer = page.createElement("div");
  layer.id = "desk-marks";
  const box = (row: string, piece?: string) =>
    page.querySelector(`[data-row="${CSS.escape(row)}"]${piece ? ` [data-piece="${CSS.escape(piece)}"]` : ""}`)?.getBoundingClientRect();
  const add = (name: string, at: { left: number; top: number; width?: number; height?: number }, text: string) => {
    const mark = page.createElement("div");
    mark.className = name;
    mark.textContent = text;
    for (const [side, pixels] of Object.entries(at)) {
      mark.style.setProperty(side, `${pixels}px`);
    }
    layer.append(mark);
    return mark;
  };
  if (marks.place) {
    const { row, after, before } = marks.place;
    const [above, below, all] = [after && box(row, after), before && box(row, before), box(row)];
    const at = above || below || all;
    if (at) {
      const top = above ? above.bottom : below ? below.top : at.top + Math.min(at.height / 2, 30);
      const mark = add("desk-place", { left: at.left, top: top - 1, width: at.width }, "");
      const label = page.createElement("span");
      label.textContent = "put it here";
      mark.append(label);
    }
  } else if (marks.addTo) {
    const all = box(marks.addTo);
    if (all) {
      const mark = marks.empty
        ? add(
            "desk-empty",
            { left: all.left + 12, top: all.top + 8, width: all.width - 24, height: Math.max(44, all.height - 16) },
            "Add a block",
          )
        : add("desk-add", { left: all.left, top: all.bottom - 28 }, "Add a block");
      mark.setAttribute("data-add-to", marks.addTo);
    }
  }
  page.body.append(layer);
}
