import { Button, TextInput } from "@mantine/core";
import { api, ask } from "../../api/client";
import type { CampaignType, LinkTag } from "../../api/types";
import { useTypeSetting } from "../../shared/useTypeSetting";
import classes from "./ChecksRoom.module.css";

const usual: LinkTag[] = [
  { name: "utm_source", value: "email" },
  { name: "utm_medium", value: "{type}" },
  { name: "utm_campaign", value: "{campaign}" },
  { name: "utm_content", value: "{row}" },
];

/** What the links of one campaign type get. */
export function LinkTags({ type, mayChange }: { type: CampaignType; mayChange: boolean }) {
  const links = useTypeSetting(
    type,
    { value: { tags: type.linkTags.tags, hosts: type.linkTags.hosts.join(", ") }, version: type.linkTagsVersion },
    (now) => now.linkTagsVersion,
    ({ tags, hosts }, header) =>
      ask(
        api.PUT("/api/campaign-types/{key}/link-tags", {
          params: { path: { key: type.key }, header },
          body: { tags, hosts: hosts.split(/[\s,]+/).filter(Boolean) },
        }),
      ),
  );
  const { tags, hosts } = links.value;
  const change = (at: number, part: Partial<LinkTag>) =>
    links.write((now) => ({ ...now, tags: now.tags.map((t, i) => (i === at ? { ...t, ...part } : t)) }));
  return (
    <>
      {tags.length === 0 && <p className="soft">Links go out as they are written.</p>}
      {tags.map((tag, at) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a tag is written by its place until it has a name.
        <div key={at} className={classes.tag}>
          <TextInput
            aria-label={`${type.name}, name ${at + 1}`}
            value={tag.name}
            disabled={!mayChange}
            onChange={(e) => change(at, { name: e.currentTarget.value.trim() })}
            onBlur={links.send}
          />
          <span aria-hidden>=</span>
          <TextInput
            aria-label={`${type.name}, value ${at + 1}`}
            value={tag.value}
            disabled={!mayChange}
            onChange={(e) => change(at, { value: e.currentTarget.value })}
            onBlur={links.send}
          />
          {mayChange && (
            <button type="button" className="plain underlined" onClick={() => links.set({ hosts, tags: tags.filter((_, i) => i !== at) })}>
              Remove<span className="only-heard"> {tag.name}</span>
            </button>
          )}
        </div>
      ))}
      {tags.length > 0 && (
        <TextInput
          label="Only addresses at these hosts"
          placeholder="every one"
          value={hosts}
          disabled={!mayChange}
          onChange={(e) => links.write({ tags, hosts: e.currentTarget.value })}
          onBlur={links.send}
        />
      )}
      {mayChange && (
        <p>
          {tags.length === 0 ? (
            <Button variant="default" onClick={() => links.set({ hosts, tags: usual })}>
              Add the usual tags
            </Button>
          ) : (
            <button
              type="button"
              className="plain underlined"
              onClick={() => links.write({ hosts, tags: [...tags, { name: "", value: "" }] })}
            >
              Add a tag
            </button>
          )}
        </p>
      )}
      {links.fault && <p role="alert">■ {links.fault}</p>}
    </>
  );
}
