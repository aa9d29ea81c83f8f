import { Button, Modal } from "@mantine/core";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { queries } from "../../api/queries";
import { onAnswered, onSignedOut } from "../../api/session";
import type { Session } from "../../api/types";
import { SignInForm } from "./SignInForm";
import { askSession, beginSession } from "./useSession";

const aPause = 800;

/**
 * Does something once nobody has typed for a moment: a dialog that opens between two letters would take the second. What waits can
 * be called off.
 */
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
  const act = useCallback((what: () => void) => {
    const wait = () => {
      const left = typed.current + aPause - Date.now();
      clearTimeout(later.current);
      later.current = left > 0 ? window.setTimeout(wait, left) : 0;
      if (left <= 0) {
        what();
      }
    };
    wait();
  }, []);
  const callOff = useCallback(() => clearTimeout(later.current), []);
  return { act, callOff };
}

/**
 * Stands over the page when the session has ended, or is somebody else's by now: the page stays, and with it all that was typed.
 */
export function SignInAgain({ session }: { session: Session }) {
  const [ended, setEnded] = useState(false);
  const cache = useQueryClient();
  const server = useQuery(queries.server);
  const { act, callOff } = useRest();
  useEffect(() => onSignedOut(() => act(() => setEnded(true))), [act]);
  const signedIn = useCallback(
    (next: Session) => {
      if (next.id !== session.id) {
        // What one person has seen and typed is not the other's.
        location.reload();
        return;
      }
      // What was asked meanwhile, without a session, may have begun another wait.
      callOff();
      setEnded(false);
      beginSession(cache, next);
      void cache.invalidateQueries();
    },
    [session.id, cache, callOff],
  );
  useEffect(() => {
    if (!ended) {
      return;
    }
    // Who has signed in again in another window need not do so here.
    const look = async () => {
      const now = await askSession().catch(() => null);
      if (now?.id === session.id) {
        signedIn(now);
      }
    };
    const stop = onAnswered(look);
    window.addEventListener("focus", look);
    return () => {
      stop();
      window.removeEventListener("focus", look);
    };
  }, [ended, session.id, signedIn]);
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
      {server.data?.openId && (
        <Button component="a" href="/api/session/openid" target="_blank" variant="default" fullWidth mt={16}>
          Sign in with {server.data.openId} in a new window
        </Button>
      )}
    </Modal>
  );
}
