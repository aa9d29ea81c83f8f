import { useElementSize, useMergedRef } from "@mantine/hooks";
import { type ReactNode, useRef } from "react";
import classes from "./WideTable.module.css";

interface Props {
  /** What it lists. */
  label: string;
  className?: string;
  children: ReactNode;
}

/** A table that keeps its columns readable on a phone, and moves there by itself, by touch and by keys. */
export function WideTable({ label, className, children }: Props) {
  const frame = useRef<HTMLDivElement>(null);
  const { ref, width } = useElementSize();
  const moves = frame.current !== null && frame.current.scrollWidth > Math.ceil(width);
  return (
    <div ref={useMergedRef(frame, ref)} {...(moves && { role: "region", "aria-label": label, tabIndex: 0 })} className={classes.frame}>
      <table className={className}>{children}</table>
    </div>
  );
}
