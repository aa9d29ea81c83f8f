/** How the columns of a row share its width, in parts. */
export const layouts = [
  { name: "One column", parts: [1] },
  { name: "Halves", parts: [1, 1] },
  { name: "Third and rest", parts: [1, 2] },
  { name: "Rest and third", parts: [2, 1] },
  { name: "Thirds", parts: [1, 1, 1] },
  { name: "Quarters", parts: [1, 1, 1, 1] },
];

const width = 60;

/** A layout as a tiny drawing. */
export function LayoutDrawing({ parts }: { parts: number[] }) {
  const total = parts.reduce((sum, p) => sum + p, 0);
  let left = 1;
  return (
    <svg width={width} height={22} viewBox={`0 0 ${width} 22`} fill="none" stroke="currentColor" aria-hidden="true">
      {parts.map((part, i) => {
        const own = ((width - 2) * part) / total;
        const at = left;
        left += own;
        // biome-ignore lint/suspicious/noArrayIndexKey: columns have no other identity here than their place.
        return <rect key={i} x={at + 1.5} y={1.5} width={own - 3} height={19} />;
      })}
    </svg>
  );
}
