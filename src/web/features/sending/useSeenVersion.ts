import { useState } from "react";
import type { Problem } from "../../api/client";

/**
 * The version of what was opened to be changed. That somebody else changed it meanwhile is told once; the next try is over
 * what they made of it.
 *
 * @param newest Asks for the version that is stored now.
 */
export function useSeenVersion(opened: string | undefined, newest: () => Promise<string | undefined>) {
  const [version, setVersion] = useState(opened);
  const onError = async (error: Error) => {
    if ((error as Problem).type === "changed-since") {
      setVersion((await newest()) ?? version);
    }
  };
  return { version, onError };
}
