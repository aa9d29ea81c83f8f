import { Button, Popover, TextInput } from "@mantine/core";
import { useDebouncedValue } from "@mantine/hooks";
import { useQuery } from "@tanstack/react-query";
import type { Editor } from "@tiptap/react";
import { type FormEvent, useState } from "react";
import { api, ask } from "../../../../api/client";
import { queries } from "../../../../api/queries";
import { onlyNode, writeNode } from "../../../../shared/nodes";
import { useNodeOffers } from "../../../nodes/nodeOffers";
import classes from "./fields.module.css";

/** Sets, changes or takes away the link of the selected words. */
export function LinkButton({ editor, active }: { editor: Editor; active: boolean }) {
  const [opened, setOpened] = useState(false);
  const open = () => setOpened(true);
  const set = (href: string) => {
    const link = editor.chain().focus().extendMarkRange("link");
    href ? link.setLink({ href }).run() : link.unsetLink().run();
    setOpened(false);
  };
  return (
    <Popover opened={opened} onChange={setOpened} position="bottom-end" trapFocus returnFocus width={320}>
      <Popover.Target>
        <button
          type="button"
          className={`plain ${classes.tool}`}
          aria-pressed={active}
          onMouseDown={(e) => e.preventDefault()}
          onClick={open}
        >
          <span className="underlined">Link</span>
        </button>
      </Popover.Target>
      <Popover.Dropdown>{opened && <LinkPanel former={editor.getAttributes("link").href ?? ""} onSet={set} />}</Popover.Dropdown>
    </Popover>
  );
}

/** Where the words lead: written, or one of the addresses used lately. Its form is checked while it is typed. */
function LinkPanel({ former, onSet }: { former: string; onSet: (href: string) => void }) {
  const { offers, find } = useNodeOffers();
  const node = onlyNode(former);
  const [href, setHref] = useState(node ? "" : former);
  const snippets = offers.data?.filter((o) => o.kind === "snippet" && o.type === "Link" && !o.whyNot) ?? [];
  const [asked] = useDebouncedValue(href.trim(), 200);
  const check = useQuery({
    queryKey: ["link", asked],
    enabled: asked.length > 0,
    queryFn: () => ask(api.GET("/api/links/check", { params: { query: { href: asked } } })),
  });
  const recent = useQuery(queries.recentLinks);
  const typed = href.trim().toLowerCase();
  const shown =
    recent.data?.filter((r) => !typed || typed === former.toLowerCase() || r.href.toLowerCase().includes(typed)).slice(0, 6) ?? [];
  const submit = (event: FormEvent) => {
    event.preventDefault();
    onSet(href.trim());
  };
  const better = asked ? check.data?.better : undefined;
  return (
    <form onSubmit={submit} className={classes.linkForm}>
      <TextInput
        label="Leads to"
        placeholder="https://"
        description={node ? `Now the snippet "${find(node)?.name ?? node.key}". Empty takes it away.` : "Empty takes the link away."}
        value={href}
        onChange={(e) => setHref(e.currentTarget.value)}
        error={asked ? check.data?.fault : undefined}
        data-autofocus
      />
      {better && (
        <button type="button" className="plain underlined" onClick={() => setHref(better)}>
          Write {better}
        </button>
      )}
      <Button type="submit">Set the link</Button>
      {snippets.length > 0 && (
        <section aria-label="Snippets">
          <p className={classes.recentTitle}>Snippets</p>
          <ul className={classes.recent}>
            {snippets.map((offer) => (
              <li key={offer.key}>
                <button type="button" className="plain" title={offer.value ?? ""} onClick={() => onSet(writeNode(offer))}>
                  {offer.name}
                </button>
              </li>
            ))}
          </ul>
        </section>
      )}
      {shown.length > 0 && (
        <section aria-label="Recently used">
          <p className={classes.recentTitle}>Recently used</p>
          <ul className={classes.recent}>
            {shown.map((link) => (
              <li key={link.href}>
                <button type="button" className="plain" title={link.href} onClick={() => onSet(link.href)}>
                  {link.href.replace(/^https?:\/\//, "")}
                </button>
              </li>
            ))}
          </ul>
        </section>
      )}
    </form>
  );
}
