/** The program's emblem: a rule with a golden mark. */
export function Mark({ width = 34 }: { width?: number }) {
  return (
    <svg width={width} height={(width * 16) / 34} viewBox="0 0 34 16" aria-hidden="true">
      <path
        d="M1 15.4H33M1 15V10M6.3 15V12M11.6 15V12M22.2 15V12M27.6 15V12M33 15V10"
        stroke="currentColor"
        strokeWidth="1.3"
        fill="none"
      />
      <path d="M17 15.4V1" stroke="var(--gold)" strokeWidth="2.6" />
    </svg>
  );
}
