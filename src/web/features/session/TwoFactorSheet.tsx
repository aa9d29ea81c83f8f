import { Button, PasswordInput, TextInput } from "@mantine/core";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, ask } from "../../api/client";
import { queries } from "../../api/queries";
import { countOf } from "../../shared/format";
import { Pending } from "../../shared/Pending";
import classes from "./AccountRoom.module.css";

type Wanted = "begin" | "codes" | "end";

const asks: Record<Wanted, string> = {
  begin: "Set up an app",
  codes: "New recovery codes",
  end: "Sign in with the password alone",
};

/** Signing in with a code of an authenticator app beside the password. */
export function TwoFactorSheet() {
  const cache = useQueryClient();
  const state = useQuery(queries.twoFactor);
  const [wanted, setWanted] = useState<Wanted>();
  const [password, setPassword] = useState("");
  const [setup, setSetup] = useState<{ secret: string; qrCode: string }>();
  const [codes, setCodes] = useState<string[]>();
  const again = () =>
    Promise.all([cache.invalidateQueries({ queryKey: ["two-factor"] }), cache.invalidateQueries({ queryKey: ["sessions"] })]);
  const act = useMutation({
    mutationFn: async (what: Wanted) => {
      const body = { password };
      if (what === "begin") {
        setSetup(await ask(api.POST("/api/session/two-factor", { body })));
      } else if (what === "codes") {
        setCodes((await ask(api.POST("/api/session/two-factor/recovery-codes", { body }))).codes);
      } else {
        await ask(api.POST("/api/session/two-factor/end", { body }));
      }
    },
    onSuccess: () => {
      setWanted(undefined);
      setPassword("");
      return again();
    },
  });
  if (!state.data) {
    return <Pending query={state} what="How you sign in" />;
  }
  return (
    <section aria-labelledby="two-factor">
      <h2 id="two-factor">Two-factor sign-in</h2>
      {codes ? (
        <RecoveryCodes codes={codes} onClose={() => setCodes(undefined)} />
      ) : setup ? (
        <Setup
          {...setup}
          onDone={(given) => {
            setSetup(undefined);
            setCodes(given);
            return again();
          }}
        />
      ) : (
        <>
          <p>
            {state.data.on
              ? `On: a code of your authenticator app is asked for beside the password. ${countOf(state.data.recoveryCodes, "recovery code")} left.`
              : "Off: the password alone opens your account. With an authenticator app on your phone, nobody gets in who only knows the password."}
          </p>
          {wanted ? (
            <form
              className={classes.steps}
              onSubmit={(event) => {
                event.preventDefault();
                act.mutate(wanted);
              }}
            >
              <PasswordInput
                label="Your password"
                autoComplete="current-password"
                autoFocus
                required
                value={password}
                error={act.error?.message}
                onChange={(e) => setPassword(e.currentTarget.value)}
              />
              <p>
                <Button type="submit" loading={act.isPending}>
                  {asks[wanted]}
                </Button>{" "}
                <Button variant="default" onClick={() => setWanted(undefined)}>
                  Cancel
                </Button>
              </p>
            </form>
          ) : (
            <p style={{ display: "flex", gap: 12 }}>
              {(state.data.on ? (["codes", "end"] as const) : (["begin"] as const)).map((what) => (
                <Button key={what} variant="default" onClick={() => setWanted(what)}>
                  {asks[what]}
                </Button>
              ))}
            </p>
          )}
        </>
      )}
    </section>
  );
}

function Setup({ secret, qrCode, onDone }: { secret: string; qrCode: string; onDone: (codes: string[]) => void }) {
  const [code, setCode] = useState("");
  const confirm = useMutation({
    mutationFn: () => ask(api.POST("/api/session/two-factor/confirmation", { body: { code } })),
    onSuccess: (answer) => onDone(answer.codes),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    confirm.mutate();
  };
  return (
    <div className={classes.setup}>
      <img
        className={classes.code}
        alt="QR code for your authenticator app"
        src={`data:image/svg+xml;charset=utf-8,${encodeURIComponent(qrCode)}`}
      />
      <form className={classes.steps} onSubmit={submit}>
        <p>
          Scan the code with your authenticator app, or type this into it: <code>{secret.replace(/(.{4})/g, "$1 ").trim()}</code>
        </p>
        <TextInput
          label="Code that the app shows now"
          autoComplete="one-time-code"
          inputMode="numeric"
          required
          autoFocus
          value={code}
          error={confirm.error?.message}
          onChange={(e) => setCode(e.currentTarget.value)}
        />
        <Button type="submit" loading={confirm.isPending}>
          Turn it on
        </Button>
      </form>
    </div>
  );
}

function RecoveryCodes({ codes, onClose }: { codes: string[]; onClose: () => void }) {
  return (
    <div role="status">
      <p>
        Each of these opens your account once, where the app is not at hand. Write them down or print them now: they are not shown again.
      </p>
      <ul className={classes.codes}>
        {codes.map((code) => (
          <li key={code}>{code}</li>
        ))}
      </ul>
      <p>
        <Button variant="default" onClick={() => navigator.clipboard.writeText(codes.join("\n"))}>
          Copy them
        </Button>{" "}
        <Button onClick={onClose}>I have them</Button>
      </p>
    </div>
  );
}
