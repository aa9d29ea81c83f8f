import { Button, TextInput } from "@mantine/core";
import { type FormEvent, useState } from "react";

interface Props {
  hosts: readonly string[];
  label: string;
  mayChange: boolean;
  onChange: (hosts: string[]) => void;
}

// An address that was copied whole is taken for its host.
const hostIn = (written: string) =>
  written
    .trim()
    .toLowerCase()
    .replace(/^https?:\/\//, "")
    .replace(/^.*@/, "")
    .replace(/\/.*$/, "");

// As the server judges it.
const isHost = (host: string) => host.length <= 253 && /^([a-z0-9]([a-z0-9-]{0,61}[a-z0-9])?\.)+[a-z0-9-]{2,63}$/.test(host);

/** Names of hosts, added and removed one by one. */
export function HostList({ hosts, label, mayChange, onChange }: Props) {
  const [written, setWritten] = useState("");
  const [fault, setFault] = useState<string>();
  const add = (event: FormEvent) => {
    event.preventDefault();
    const host = hostIn(written);
    if (!isHost(host)) {
      setFault(host ? `"${host}" is not the name of a host. Write it like larkfell.example.org.` : "Write the name of a host first.");
      return;
    }
    if (!hosts.includes(host)) {
      onChange([...hosts, host].sort());
    }
    setWritten("");
  };
  return (
    <>
      <ul>
        {hosts.map((host) => (
          <li key={host}>
            {host}
            {mayChange && (
              <button type="button" className="plain underlined" onClick={() => onChange(hosts.filter((h) => h !== host))}>
                Remove<span className="only-heard"> {host}</span>
              </button>
            )}
          </li>
        ))}
      </ul>
      {mayChange && (
        <form onSubmit={add}>
          <TextInput
            label={label}
            placeholder="larkfell.example.org"
            value={written}
            error={fault}
            onChange={(e) => {
              setWritten(e.currentTarget.value);
              setFault(undefined);
            }}
          />
          <Button type="submit" variant="default">
            Add
          </Button>
        </form>
      )}
    </>
  );
}
