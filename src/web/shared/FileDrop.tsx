import { Dropzone } from "@mantine/dropzone";
import { type ReactNode, useRef } from "react";
import classes from "./FileDrop.module.css";

interface Props {
  /** What the files are, for those who hear it. */
  label: string;
  /** Media types or endings. */
  accept: string[];
  multiple?: boolean;
  disabled?: boolean;
  className?: string;
  /** Whether it takes what is pasted on it, too. */
  pasted?: boolean;
  onFiles: (files: File[]) => void;
  /** What it holds; given the way to choose files from the disk. */
  children: (choose: () => void) => ReactNode;
}

/** Takes files that are dropped on what it holds or pasted there, or chosen from the disk. */
export function FileDrop({ label, accept, multiple = false, disabled = false, className, pasted = true, onFiles, children }: Props) {
  const choose = useRef<() => void>(null);
  if (disabled) {
    return <div className={className}>{children(() => undefined)}</div>;
  }
  return (
    <Dropzone
      openRef={choose}
      className={className}
      classNames={{ root: classes.root, inner: classes.inner }}
      accept={Object.fromEntries(accept.map((type) => (type.startsWith(".") ? ["application/octet-stream", accept] : [type, []])))}
      multiple={multiple}
      activateOnClick={false}
      activateOnKeyboard={false}
      enablePointerEvents
      useFsAccessApi={false}
      inputProps={{ "aria-label": label }}
      onDrop={onFiles}
      // What is not of these sorts is sent all the same: the server says what is wrong with it.
      onReject={(files) => onFiles(files.map(({ file }) => file))}
      onPaste={(event) => {
        if (pasted && event.clipboardData.files.length > 0) {
          onFiles([...event.clipboardData.files]);
        }
      }}
    >
      {children(() => choose.current?.())}
    </Dropzone>
  );
}
