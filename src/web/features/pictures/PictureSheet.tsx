import { Button, Checkbox, TagsInput, Textarea, TextInput } from "@mantine/core";
import { useMutation, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import type { PictureEntry } from "../../api/types";
import { sizeOf } from "../../shared/format";
import { useSetting } from "../../shared/useSetting";
import { UsesList } from "../library/UsesList";
import { useSession } from "../session/useSession";
import { FocalPoint } from "./FocalPoint";
import PictureDialog from "./PictureDialog";
import classes from "./PicturesRoom.module.css";
import { useRefreshPictures } from "./usePictures";

/** Everything about one picture: what it says, what a phone sees of it, its files, its uses. */
export function PictureSheet({ picture, onChoose }: { picture: PictureEntry; onChoose: (id: string) => void }) {
  const roles = useSession().data?.roles ?? [];
  const locked = !roles.some((r) => r !== "reviewer");
  const change = useChange(picture.id);
  const decorative = useSetting(picture.decorative, async (next) => (await change.mutateAsync({ decorative: next })).decorative);
  const tags = useSetting(picture.tags, async (next) => (await change.mutateAsync({ tags: next })).tags);
  const known = useQuery(queries.pictureTags);
  const [name, setName] = useState(picture.name);
  const [alt, setAlt] = useState(picture.alt);
  const keep = (field: "name" | "alt", value: string) => value.trim() !== picture[field] && change.mutate({ [field]: value.trim() });
  return (
    <>
      <FocalPoint picture={picture} disabled={locked} onMove={(focalX, focalY) => change.mutate({ focalX, focalY })} />
      {change.error && (
        <p role="alert" className={classes.fault}>
          ■ {change.error.message}
        </p>
      )}
      <TextInput
        label="Name"
        disabled={locked}
        maxLength={200}
        value={name}
        onChange={(e) => setName(e.currentTarget.value)}
        onBlur={() => keep("name", name)}
        onKeyDown={(e) => e.key === "Enter" && e.currentTarget.blur()}
      />
      <Textarea
        label="Alt text"
        description="What a reader who does not see it is told. Emails start with it."
        disabled={locked || decorative.value}
        maxLength={500}
        autosize
        minRows={2}
        value={alt}
        onChange={(e) => setAlt(e.currentTarget.value)}
        onBlur={() => keep("alt", alt)}
      />
      <Checkbox
        label="Decorative: readers lose nothing without it"
        disabled={locked}
        checked={decorative.value}
        onChange={(e) => decorative.set(e.currentTarget.checked)}
      />
      <TagsInput
        label="Tags"
        disabled={locked}
        maxTags={12}
        data={known.data?.map((t) => t.tag) ?? []}
        value={tags.value}
        onChange={tags.set}
      />
      <h2>Files</h2>
      <table className={classes.files}>
        <tbody>
          {picture.files.map((file, i) => (
            <tr key={file.address}>
              <td>
                <a href={file.address} target="_blank" rel="noreferrer">
                  {file.width} × {file.height}
                </a>
              </td>
              <td className="soft">
                {picture.moves ? "as it is, so that it moves" : `shown ${Math.floor(file.width / 2)} wide${i === 0 ? " or more" : ""}`}
              </td>
              <td>{sizeOf(file.bytes)}</td>
            </tr>
          ))}
          {picture.phoneCrop && (
            <tr>
              <td>
                <a href={picture.phoneCrop.address} target="_blank" rel="noreferrer">
                  {picture.phoneCrop.width} × {picture.phoneCrop.height}
                </a>
              </td>
              <td className="soft">cropped for phones</td>
              <td>{sizeOf(picture.phoneCrop.bytes)}</td>
            </tr>
          )}
        </tbody>
      </table>
      <h2>Where it is used</h2>
      <UsesList of="pictures" id={picture.id} />
      {roles.some((r) => r === "lead" || r === "designer") && <Replacing picture={picture} onChoose={onChoose} />}
    </>
  );
}

function Replacing({ picture, onChoose }: { picture: PictureEntry; onChoose: (id: string) => void }) {
  const [choosing, setChoosing] = useState(false);
  const refresh = useRefreshPictures();
  const params = { path: { id: picture.id } };
  const replace = useMutation({
    mutationFn: (by: string | null) =>
      ask(
        by ? api.PUT("/api/pictures/{id}/replacement", { params, body: { by } }) : api.DELETE("/api/pictures/{id}/replacement", { params }),
      ),
    onSuccess: refresh,
  });
  return (
    <div className={classes.replacing}>
      {replace.error && (
        <p role="alert" className={classes.fault}>
          ■ {replace.error.message}
        </p>
      )}
      {picture.replacedBy ? (
        <>
          <p>Another picture stands in its place everywhere.</p>
          <p className={classes.row}>
            <Button variant="default" onClick={() => replace.mutate(null)}>
              Undo the replacement
            </Button>
            <button type="button" className="plain underlined" onClick={() => picture.replacedBy && onChoose(picture.replacedBy)}>
              See the other
            </button>
          </p>
        </>
      ) : (
        <>
          <Button variant="default" onClick={() => setChoosing(true)}>
            Replace it everywhere
          </Button>
          <p className="soft">Emails not yet handed off show the other at once. The replacement can be undone.</p>
        </>
      )}
      {choosing && (
        <PictureDialog
          onClose={() => setChoosing(false)}
          onChoose={(other) => {
            setChoosing(false);
            replace.mutate(other.id);
          }}
        />
      )}
    </div>
  );
}

function useChange(id: string) {
  const refresh = useRefreshPictures();
  return useMutation({
    // One after the other: of two changes of one value the later holds.
    scope: { id: `picture ${id}` },
    mutationFn: (change: { name?: string; alt?: string; decorative?: boolean; tags?: string[]; focalX?: number; focalY?: number }) =>
      ask(api.PATCH("/api/pictures/{id}", { params: { path: { id } }, body: change })),
    onSuccess: refresh,
  });
}
