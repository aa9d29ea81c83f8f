import { Button, Modal } from "@mantine/core";
import { useQuery } from "@tanstack/react-query";
import { api, ask } from "../../api/client";
import type { Desk } from "../desk/DeskStore";
import { useDeskContext } from "../desk/useDesk";
import { BeforeAfter } from "./BeforeAfter";
import classes from "./UpdateDialog.module.css";

/** Newer releases of what the email is made from: what they change, what would be set aside, and taking them. */
export default function UpdateDialog({ desk, onClose }: { desk: Desk; onClose: () => void }) {
  const { store } = useDeskContext();
  const update = useQuery({
    queryKey: ["update", desk.id, desk.revision],
    queryFn: () => ask(api.GET("/api/emails/{id}/update", { params: { path: { id: desk.id } } })),
  });
  const { data } = update;
  const aside = data?.aside ?? [];
  const take = () => {
    if (data?.edit) {
      store.edit(data.edit);
      onClose();
    }
  };
  return (
    <Modal opened onClose={onClose} title="Update available" size={1120} closeButtonProps={{ "aria-label": "Close" }}>
      {update.error && <p role="alert">{update.error.message}</p>}
      {data && (
        <div className={classes.update}>
          <div className={classes.words}>
            <ul className={classes.newer}>
              {data.newer.map((newer) => (
                <li key={newer.row ?? "template"}>
                  <b>{newer.what}</b>, release {newer.from} to {newer.to}
                  {newer.required && <b>, must be taken</b>}
                  {newer.notes.map((note) => (
                    <p key={note}>{note}</p>
                  ))}
                </li>
              ))}
            </ul>
            <h3>Text without a place</h3>
            {aside.length === 0 ? (
              <p className="soft">Nothing: everything you wrote finds its place.</p>
            ) : (
              <ul className={classes.newer}>
                {aside.map((one) => (
                  <li key={one.key}>
                    <b>{one.where}</b>
                    <p>{one.why} It is kept under Subject and sender until you use it or discard it.</p>
                  </li>
                ))}
              </ul>
            )}
            {data.come.length > 0 && <Findings title="New findings" messages={data.come} />}
            {data.gone.length > 0 && <Findings title="Findings it mends" messages={data.gone} />}
            <Button disabled={!data.edit || !data.allowed.allowed} title={data.allowed.reason ?? undefined} onClick={take}>
              Take the update
            </Button>
            {!data.allowed.allowed && <p>{data.allowed.reason}</p>}
          </div>
          <BeforeAfter
            before={{ name: "As it is", src: `/api/emails/${desk.id}/html?proof=true&revision=${desk.revision}` }}
            after={{ name: "With the update", src: `/api/emails/${desk.id}/update/html?revision=${desk.revision}` }}
          />
        </div>
      )}
    </Modal>
  );
}

function Findings({ title, messages }: { title: string; messages: string[] }) {
  return (
    <>
      <h3>{title}</h3>
      <ul className={classes.newer}>
        {messages.map((message) => (
          <li key={message}>{message}</li>
        ))}
      </ul>
    </>
  );
}
