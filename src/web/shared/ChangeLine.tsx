interface Props {
  said?: string;
  fault?: string;
  undo?: () => void;
  className?: string;
}

/** What a change did or why it was refused, and what takes it back. */
export function ChangeLine({ said, fault, undo, className }: Props) {
  return (
    <div className={className}>
      <p role="status" style={{ margin: 0 }}>
        {said}{" "}
        {undo && (
          <button type="button" className="plain underlined" onClick={undo}>
            Undo
          </button>
        )}
      </p>
      {fault && (
        <p role="alert" style={{ margin: 0, color: "var(--vermilion)" }}>
          ■ {fault}
        </p>
      )}
    </div>
  );
}
