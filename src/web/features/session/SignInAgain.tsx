import { Modal } from "@mantine/core";
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { onSignedOut } from "../../api/signedOut";
import type { Session } from "../../api/types";
import { SignInForm } from "./SignInForm";

/** Stands over the page when the session has ended: the page stays, and with it all that was typed. */
export function SignInAgain({ session }: { session: Session }) {
  const [ended, setEnded] = useState(false);
  const cache = useQueryClient();
  useEffect(() => onSignedOut(() => setEnded(true)), []);
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
