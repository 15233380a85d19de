import { afterWhite, isFault, start, step } from './grammar';

/** A value of a JSON text with the place where it begins. */
export interface JsonNode {
  at: number;
  /** Of strings, numbers, words; undefined for what has parts. */
  value?: string | number | boolean | null;
  items?: JsonNode[];
  fields?: { key: string; at: number; value: JsonNode }[];
}

/** Reads a text that is JSON, and remembers where everything stands; null for one that is none. */
export function jsonTree(text: string): JsonNode | null {
  const open: JsonNode[] = [];
  let root: JsonNode | null = null;
  let key: { key: string; at: number } | null = null;
  const put = (node: JsonNode) => {
    const owner = open.at(-1);
    if (!owner) root = node;
    else if (owner.items) owner.items.push(node);
    else owner.fields!.push({ ...key!, value: node });
  };
  let state = start;
  for (;;) {
    const next = step(text, state);
    if (isFault(next)) return null;
    if (next === state) return root;
    const at = afterWhite(text, state.at);
    const sign = text[at]!;
    const isKey = state.expected === 'key' || state.expected === 'key-or-end';
    if (sign === '{' || sign === '[') {
      const node: JsonNode = sign === '{' ? { at, fields: [] } : { at, items: [] };
      put(node);
      open.push(node);
    } else if (sign === '}' || sign === ']') {
      open.pop();
    } else if (isKey) {
      key = { key: JSON.parse(text.slice(at, next.at)) as string, at };
    } else if (sign !== ',' && sign !== ':') {
      put({ at, value: JSON.parse(text.slice(at, next.at)) as string });
    }
    state = next;
  }
}

/** What an object has under a name; undefined for anything else. Of doubles the last counts, as everywhere. */
export function fieldOf(node: JsonNode | undefined, name: string): JsonNode | undefined {
  return node?.fields?.findLast(({ key }) => key === name)?.value;
}

/** The plain value of a node. */
export function plainValue(node: JsonNode | undefined): unknown {
  if (!node) return undefined;
  if (node.items) return node.items.map(plainValue);
  if (!node.fields) return node.value;
  return Object.fromEntries(node.fields.map(({ key, value }) => [key, plainValue(value)]));
}
