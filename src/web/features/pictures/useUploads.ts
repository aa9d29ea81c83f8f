import { useCallback, useEffect, useRef, useState } from "react";
import type { PictureEntry } from "../../api/types";
import { newId } from "../../shared/ids";
import { upload } from "../../shared/upload";
import { useRefreshPictures } from "./usePictures";

export interface Upload {
  id: string;
  name: string;
  /** 0 to 1 while it is sent; 1: the server makes its sizes. */
  sent: number;
  fault?: string;
  picture?: PictureEntry;
}

/** Sends picture files, two at a time, and tells how far each is. */
export function useUploads(onAdded?: (picture: PictureEntry) => void) {
  const [uploads, setUploads] = useState<Upload[]>([]);
  const refresh = useRefreshPictures();
  const queue = useRef<{ id: string; file: File }[]>([]);
  const running = useRef(0);
  // Whoever closed the dialog wants nothing put in: what was sent is in the library all the same.
  const there = useRef(true);
  useEffect(() => {
    there.current = true;
    return () => {
      there.current = false;
    };
  }, []);
  const change = (id: string, now: Partial<Upload>) => setUploads((all) => all.map((u) => (u.id === id ? { ...u, ...now } : u)));

  const next = async () => {
    const one = queue.current.shift();
    if (!one) {
      return;
    }
    running.current++;
    try {
      const picture = await upload<PictureEntry>(
        "/api/pictures",
        one.file,
        one.file.name || "pasted.png",
        "The file is too large; pictures have at most 5 MB.",
        (sent) => change(one.id, { sent }),
      );
      change(one.id, { sent: 1, picture });
      if (there.current) {
        onAdded?.(picture);
      }
      void refresh();
    } catch (fault) {
      change(one.id, { fault: (fault as Error).message });
    }
    running.current--;
    void next();
  };

  const add = (files: Iterable<File>) => {
    const added = [...files].map((file) => ({ id: newId(), file }));
    queue.current.push(...added);
    setUploads((all) => [
      ...added.map(({ id, file }) => ({ id, name: file.name || "pasted picture", sent: 0 })),
      ...all.filter((u) => !u.picture),
    ]);
    while (running.current < 2 && queue.current.length > 0) {
      void next();
    }
  };
  const forget = useCallback((id: string) => setUploads((all) => all.filter((u) => u.id !== id)), []);
  return { uploads, add, forget };
}
