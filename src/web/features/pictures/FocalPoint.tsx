import type { KeyboardEvent, PointerEvent } from "react";
import { useEffect, useRef, useState } from "react";
import type { PictureEntry } from "../../api/types";
import classes from "./PicturesRoom.module.css";

interface Props {
  picture: PictureEntry;
  disabled: boolean;
  onMove: (x: number, y: number) => void;
}

const step = 0.05;
const within = (share: number) => Math.round(Math.min(1, Math.max(0, share)) * 1000) / 1000;

/** The picture with the point that a crop keeps in sight: press where it is, or move it by the arrow keys. */
export function FocalPoint({ picture, disabled, onMove }: Props) {
  const [at, setAt] = useState({ x: picture.focalX, y: picture.focalY });
  const rest = useRef<ReturnType<typeof setTimeout>>(undefined);
  useEffect(() => {
    if (rest.current === undefined) {
      setAt({ x: picture.focalX, y: picture.focalY });
    }
  }, [picture.focalX, picture.focalY]);
  // A crop is made anew for each point that is kept, so only the one where it rests is.
  const move = (x: number, y: number) => {
    const point = { x: within(x), y: within(y) };
    setAt(point);
    clearTimeout(rest.current);
    rest.current = setTimeout(() => {
      rest.current = undefined;
      onMove(point.x, point.y);
    }, 250);
  };
  const press = (event: PointerEvent<HTMLButtonElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    move((event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height);
  };
  const key = (event: KeyboardEvent) => {
    const by = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] }[event.key];
    if (by) {
      event.preventDefault();
      move(at.x + (by[0] ?? 0), at.y + (by[1] ?? 0));
    }
  };
  const crops = picture.phoneCrop != null;
  return (
    <div className={classes.focal}>
      <button
        type="button"
        className={`plain ${classes.whole}`}
        disabled={disabled || !crops}
        aria-label={`Focal point, ${Math.round(at.x * 100)} % from the left, ${Math.round(at.y * 100)} % from the top. Arrow keys move it.`}
        onPointerDown={press}
        onKeyDown={key}
      >
        <img src={picture.files[0]?.address} alt="" draggable={false} />
        {crops && <span className={classes.point} style={{ left: `${at.x * 100}%`, top: `${at.y * 100}%` }} />}
      </button>
      {picture.phoneCrop ? (
        <figure className={classes.crop}>
          <img src={picture.phoneCrop.address} alt="" />
          <figcaption className="soft">On a phone, where a block asks for the crop. The ring is what stays in sight.</figcaption>
        </figure>
      ) : (
        <p className="soft">{picture.moves ? "An animation is not cropped." : "Its shape suits a phone as it is."}</p>
      )}
    </div>
  );
}
