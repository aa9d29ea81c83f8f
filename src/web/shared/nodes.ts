/**
 * What stands within words without being words: a snippet, or a field of the reader's. In a text it is its kind and key between two
 * characters that nobody can type (the core's InlineNode).
 */
export interface InlineNode {
  kind: "snippet" | "field";
  key: string;
}

const opens = "\ufdd0";
const closes = "\ufdd1";
const node = /\ufdd0(snippet|field):([a-z][a-z0-9-]{0,59})\ufdd1/g;

export const writeNode = ({ kind, key }: InlineNode) => `${opens}${kind}:${key}${closes}`;

export const hasNodes = (text: string) => text.includes(opens);

/** The node that is all of a text; undefined: it is words, or more than one. */
export function onlyNode(text: string): InlineNode | undefined {
  const parts = nodesIn(text);
  return parts.length === 1 && typeof parts[0] === "object" ? parts[0] : undefined;
}

/** A text part by part: words, and the nodes between them. */
export function nodesIn(text: string): (string | InlineNode)[] {
  if (!hasNodes(text)) {
    return text ? [text] : [];
  }
  const parts: (string | InlineNode)[] = [];
  let at = 0;
  for (const found of text.matchAll(node)) {
    if (found.index > at) parts.push(text.slice(at, found.index));
    parts.push({ kind: found[1] as InlineNode["kind"], key: found[2] ?? "" });
    at = found.index + found[0].length;
  }
  if (at < text.length) parts.push(text.slice(at));
  return parts;
}

/** A text with what each node is shown by; where that is not known, its technical name. */
export const readNodes = (text: string, shown: (node: InlineNode) => string | undefined = () => undefined) =>
  hasNodes(text)
    ? nodesIn(text)
        .map((part) => (typeof part === "string" ? part : (shown(part) ?? `[${part.key}]`)))
        .join("")
    : text;
