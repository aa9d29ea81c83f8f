import { Menu } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { memo, useCallback, useState } from "react";
import { useNavigate } from "react-router";
import { queries } from "../../api/queries";
import { countOf } from "../../shared/format";
import { lazily } from "../../shared/lazily";
import classes from "./HouseStyleRoom.module.css";
import { useRoom } from "./RoomContext";

const RenameDialog = lazily(() => import("./RenameDialog"));
const NewHouseStyle = lazily(() => import("./NewHouseStyle"));
const PaletteDialog = lazily(() => import("./PaletteDialog"));
const ImportDialog = lazily(() => import("./ImportDialog"));

type Dialog = "new" | "name" | "palette" | "import";

/** Which house style lies open, its state, and what can be done with it as a whole. */
export function HouseStyleHead({ move }: { move: (which: "undo" | "redo") => void }) {
  const { style, open, show } = useRoom();
  const [dialog, setDialog] = useState<Dialog>();
  const close = () => setDialog(undefined);
  const rename = useCallback(() => setDialog("name"), []);
  const makeNew = useCallback(() => setDialog("new"), []);
  return (
    <>
      <header className={classes.head}>
        <h1>
          <StyleMenu id={style.id} name={style.name} onNew={style.mayEdit ? makeNew : undefined} onName={rename} />
        </h1>
        <span className={classes.moves}>
          <button type="button" className="plain" aria-label="Undo" disabled={!style.canUndo} onClick={() => move("undo")}>
            ↶
          </button>
          <button type="button" className="plain" aria-label="Redo" disabled={!style.canRedo} onClick={() => move("redo")}>
            ↷
          </button>
        </span>
      </header>
      <p className={classes.state}>
        {style.release === 0 ? "not released yet" : `release ${style.release}`}
        {style.changes > 0 && <b> + {countOf(style.changes, "change")}</b>}
        {style.parentName && <>, on {style.parentName}</>}
      </p>
      <p className={classes.tools}>
        {style.mayEdit && (
          <>
            <button type="button" className="plain underlined" onClick={() => setDialog("palette")}>
              Colours from a picture
            </button>
            <button type="button" className="plain underlined" onClick={() => setDialog("import")}>
              Import
            </button>
          </>
        )}
        <TakeOut id={style.id} />
      </p>
      <p className={classes.tabs}>
        {(["variables", "styles"] as const).map((tab) => (
          <button
            key={tab}
            type="button"
            className={`plain ${classes.tab}`}
            aria-pressed={open.tab === tab}
            onClick={() => show({ ...open, tab })}
          >
            {tab === "variables" ? "Brand variables" : "Global styles"}
          </button>
        ))}
      </p>
      {dialog === "name" && <RenameDialog onClose={close} />}
      {dialog === "new" && <NewHouseStyle onClose={close} />}
      {dialog === "palette" && <PaletteDialog onClose={close} />}
      {dialog === "import" && <ImportDialog onClose={close} />}
    </>
  );
}

// Menus are costly to draw; a colour that is dragged need not draw them.
interface MenuProps {
  id: string;
  name: string;
  /** Undefined: this person may not. */
  onNew?: () => void;
  onName: () => void;
}

const StyleMenu = memo(function StyleMenu({ id, name, onNew, onName }: MenuProps) {
  const go = useNavigate();
  const all = useQuery(queries.houseStyles);
  const nameOf = (other: string | null) => all.data?.find((s) => s.id === other)?.name;
  return (
    <Menu position="bottom-start">
      <Menu.Target>
        <button type="button" className={`plain ${classes.which}`}>
          {name} <span aria-hidden="true">▾</span>
        </button>
      </Menu.Target>
      <Menu.Dropdown>
        {all.data?.map((other) => (
          <Menu.Item key={other.id} onClick={() => go(`/house-style/${other.id}`)} aria-current={other.id === id}>
            {other.name}
            {other.parent && (
              <span className="soft">
                {" "}
                on {nameOf(other.parent)}, {other.own} of its own
              </span>
            )}
          </Menu.Item>
        ))}
        {onNew && (
          <>
            <Menu.Divider />
            <Menu.Item onClick={onName}>Rename this one …</Menu.Item>
            <Menu.Item onClick={onNew}>New house style or sub-brand …</Menu.Item>
          </>
        )}
      </Menu.Dropdown>
    </Menu>
  );
});

const TakeOut = memo(function TakeOut({ id }: { id: string }) {
  return (
    <Menu position="bottom-start">
      <Menu.Target>
        <button type="button" className="plain underlined">
          Export
        </button>
      </Menu.Target>
      <Menu.Dropdown>
        <Menu.Item component="a" href={`/api/house-styles/${id}/variables.tokens.json`} download>
          Design tokens, JSON
        </Menu.Item>
        <Menu.Item component="a" href={`/api/house-styles/${id}/variables.css`} download>
          Custom properties, CSS
        </Menu.Item>
      </Menu.Dropdown>
    </Menu>
  );
});
