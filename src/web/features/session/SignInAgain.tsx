import { Modal } from "@mantine/core";
import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { onSignedOut } from "../../api/signedOut";
import type { Session } from "../../api/types";
import { SignInForm } from "./SignInForm";

const aPause = 800;

/** Does something once nobody has typed for a moment: a dialog that opens between two letters would take the second. */
function useRest() {
  const typed = useRef(0);
  const later = useRef(0);
  useEffect(() => {
    const note = () => {
      typed.current = Date.now();
    };
    document.addEventListener("beforeinput", note, true);
    return () => {
      document.removeEventListener("beforeinput", note, true);
      clearTimeout(later.current);
    };
  }, []);
  return useCallback((act: () => void) => {
    const wait = () => {
      const left = typed.current + aPause - Date.now();
      clearTimeout(later.current);
      later.current = left > 0 ? window.setTimeout(wait, left) : 0;
      if (left <= 0) {
        act();
      }
    };
    wait();
  }, []);
}

/** Stands over the page when the session has ended: the page stays, and with it all that was typed. */
export function SignInAgain({ session }: { session: Session }) {
  const [ended, setEnded] = useState(false);
  const cache = useQueryClient();
  const rest = useRest();
  useEffect(() => onSignedOut(() => rest(() => setEnded(true))), [rest]);
  const signedIn = (next: Session) => {
    if (next.id !== session.id) {
      // What one person has seen and typed is not the other's.
      location.reload();
      return;
    }
    setEnded(false);
    cache.setQueryData(["session"], next);
    void cache.invalidateQueries();
  };
  return (
    <Modal
      opened={ended}
      onClose={() => undefined}
      withCloseButton={false}
      closeOnEscape={false}
      closeOnClickOutside={false}
      title="You were signed out"
    >
      <p>Sign in again to go on, {session.name}. What you typed waits on this page and is sent then.</p>
      <SignInForm onSignedIn={signedIn} />
    </Modal>
  );
}
