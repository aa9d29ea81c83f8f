import type { DragEvent } from "react";

const type = "text/row";

/** Carries a row or zone of the desk along while it is dragged. */
export const carryRow = (event: DragEvent, id: string) => event.dataTransfer.setData(type, id);

/** Lets a place take what is dragged there, where that is of the desk and not a file or a text from elsewhere. */
export const takesRow = (onRow: (id: string) => void) => ({
  onDragOver: (event: DragEvent) => {
    if (event.dataTransfer.types.includes(type)) {
      event.preventDefault();
    }
  },
  onDrop: (event: DragEvent) => {
    event.preventDefault();
    onRow(event.dataTransfer.getData(type));
  },
});
