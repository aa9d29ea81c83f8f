import { Button, TextInput } from "@mantine/core";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { api, ask } from "../../api/client";
import type { CampaignType, LinkTag } from "../../api/types";
import classes from "./ChecksRoom.module.css";

const usual: LinkTag[] = [
  { name: "utm_source", value: "email" },
  { name: "utm_medium", value: "{type}" },
  { name: "utm_campaign", value: "{campaign}" },
  { name: "utm_content", value: "{row}" },
];

/** What the links of one campaign type get. */
export function LinkTags({ type, mayChange }: { type: CampaignType; mayChange: boolean }) {
  const cache = useQueryClient();
  const [tags, setTags] = useState(type.linkTags.tags);
  const [hosts, setHosts] = useState(type.linkTags.hosts.join(", "));
  useEffect(() => {
    setTags(type.linkTags.tags);
    setHosts(type.linkTags.hosts.join(", "));
  }, [type]);
  const keep = useMutation({
    mutationFn: (next: LinkTag[]) =>
      ask(
        api.PUT("/api/campaign-types/{key}/link-tags", {
          params: { path: { key: type.key } },
          body: { tags: next, hosts: hosts.split(/[\s,]+/).filter(Boolean) },
        }),
      ),
    onSuccess: () => cache.invalidateQueries({ queryKey: ["campaign-types"] }),
  });
  const change = (at: number, part: Partial<LinkTag>) => setTags(tags.map((t, i) => (i === at ? { ...t, ...part } : t)));
  const settle = () => JSON.stringify(tags) !== JSON.stringify(type.linkTags.tags) && keep.mutate(tags);
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
            onBlur={settle}
          />
          <span aria-hidden>=</span>
          <TextInput
            aria-label={`${type.name}, value ${at + 1}`}
            value={tag.value}
            disabled={!mayChange}
            onChange={(e) => change(at, { value: e.currentTarget.value })}
            onBlur={settle}
          />
          {mayChange && (
            <button type="button" className="plain underlined" onClick={() => keep.mutate(tags.filter((_, i) => i !== at))}>
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
          onChange={(e) => setHosts(e.currentTarget.value)}
          onBlur={() => hosts !== type.linkTags.hosts.join(", ") && keep.mutate(tags)}
        />
      )}
      {mayChange && (
        <p>
          {tags.length === 0 ? (
            <Button variant="default" onClick={() => keep.mutate(usual)}>
              Add the usual tags
            </Button>
          ) : (
            <button type="button" className="plain underlined" onClick={() => setTags([...tags, { name: "", value: "" }])}>
              Add a tag
            </button>
          )}
        </p>
      )}
      {keep.error && <p role="alert">{keep.error.message}</p>}
    </>
  );
}
