import { createContext, useContext } from "react";
import type { Edit, HouseStyle } from "../../api/types";
import type { EditStyle, Fault } from "./useHouseStyle";

export type Tab = "variables" | "styles";

/** Which value is open: a variable's key, or a style with one of its properties. */
export interface Open {
  tab: Tab;
  variable?: string;
  style?: string;
  property?: string;
}

interface Room {
  style: HouseStyle;
  edit: EditStyle;
  editAll: (edits: Edit[], target: string) => void;
  fault?: Fault;
  open: Open;
  show: (open: Open) => void;
}

export const RoomContext = createContext<Room | undefined>(undefined);

/** The house style that lies open, and the ways to change it. */
export function useRoom(): Room {
  const room = useContext(RoomContext);
  if (!room) {
    throw new Error("Only inside the house style room.");
  }
  return room;
}
