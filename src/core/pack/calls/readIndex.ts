import { allowedCharacters, type Allowed } from '../characters';
import { mendJson, type JsonProblem } from '../mend/mend';
import { fieldOf, jsonTree, plainValue, type JsonNode } from '../mend/tree';
import { Places } from '../texts/places';
import type { Call, PathVariant } from './calls';
import { callProblems, ID_CHARACTERS } from './check';

/** An id and the files that it names. */
interface NamedFiles {
  id: string;
  files: string[];
}

/** An index, ours or any JSON that names files, held against what it should be and the files that there are. */
export interface IndexReport {
  /** What keeps it from being read, and from being right. */
  problems: JsonProblem[];
  /** As it would be with everything mended; null where something cannot be. */
  mended: string | null;
  /** Files that it names and that are not there; null where nobody has said which there are. */
  missing: string[] | null;
  /** Sounds that are there and that it does not name. */
  unused: string[] | null;
  calls: NamedFiles[];
  /** The calls with everything about them, where it is an index of ours. */
  index: Call<PathVariant>[] | null;
}

/** Names that end so are those of sounds. */
const SOUND = /\.(wav|ogg|oga|opus|mp3|m4a|aac|mp4|flac|aif|aiff|webm|raw|bin|caf)$/i;

/**
 * Reads an index of calls, or any JSON that names files.
 * @param there Paths of the files that there are, with plain slashes; null where nobody knows.
 * @param isAllowed Characters of ids.
 */
export function readIndex(
  text: string,
  there: readonly string[] | null,
  isAllowed: Allowed = allowedCharacters(ID_CHARACTERS),
): IndexReport {
  const { problems, text: mended } = mendJson(text);
  const tree = mended === null ? null : jsonTree(mended);
  if (mended === null || !tree) {
    return { problems, mended: null, missing: null, unused: null, calls: [], index: null };
  }
  const places = new Places(mended);
  const list = fieldOf(tree, 'calls')?.items;
  const index = list ? list.map(callOf) : null;
  const wrong = index
    ? callProblems(index, isAllowed).map(({ index: at, field, message }) => ({
        ...places.at(placeIn(list![at ?? 0] ?? tree, field)),
        message,
      }))
    : [];
  const calls = index
    ? index.map(({ id, variants }) => ({ id, files: variants.map(({ path }) => path) }))
    : filesIn(tree);
  return {
    problems: [...problems, ...wrong],
    mended,
    ...against(calls, there),
    calls,
    index,
  };
}

/** A call as it stands, whatever is wrong with it: what is left out counts as usual. */
function callOf(node: JsonNode): Call<PathVariant> {
  const value = (name: string, usual: unknown) => plainValue(fieldOf(node, name)) ?? usual;
  const variants = fieldOf(node, 'variants')?.items ?? [];
  const id = value('id', '');
  return {
    id: typeof id === 'string' ? id : JSON.stringify(id),
    variants: variants.map((variant) => {
      const path = variant.value ?? plainValue(fieldOf(variant, 'path'));
      const odds = plainValue(fieldOf(variant, 'odds')) ?? 1;
      return { path: typeof path === 'string' ? path : '', odds: odds as number };
    }),
    levelDb: value('levelDb', 0) as number,
    pitch: value('pitch', [1, 1]) as [number, number],
    read: value('read', 'whole') as Call['read'],
  };
}

function placeIn(call: JsonNode, field: string | null): number {
  return (field === null ? undefined : fieldOf(call, field)?.at) ?? call.at;
}

/** What fields are called that hold files, and name nothing. */
const PLAIN = /^(sounds?|files?|paths?|src|sources?|urls?|variants?|audio|samples?|items?|list)$/i;

/** Every name of a sound file, under the id that stands nearest to it. */
function filesIn(root: JsonNode): NamedFiles[] {
  const found = new Map<string, string[]>();
  const walk = (node: JsonNode, id: string): void => {
    if (typeof node.value === 'string') {
      if (!SOUND.test(node.value)) return;
      const files = found.get(id);
      if (files) files.push(node.value);
      else found.set(id, [node.value]);
      return;
    }
    for (const item of node.items ?? []) walk(item, id);
    const own = ['id', 'name', 'key'].map((name) => fieldOf(node, name)?.value).find(isId);
    for (const { key, value } of node.fields ?? []) {
      const isName = id === '' || (value.value === undefined && !PLAIN.test(key));
      walk(value, own ?? (isName ? key : id));
    }
  };
  walk(root, '');
  return [...found].map(([id, files]) => ({ id, files }));
}

function isId(value: unknown): value is string {
  return typeof value === 'string' && !SOUND.test(value);
}

function against(calls: readonly NamedFiles[], there: readonly string[] | null) {
  if (!there) return { missing: null, unused: null };
  const known = new Set(there.map(plainPath));
  const named = new Set(calls.flatMap(({ files }) => files.map(plainPath)));
  return {
    missing: [...named].filter((path) => !known.has(path)),
    unused: [...known].filter((path) => SOUND.test(path) && !named.has(path)),
  };
}

/** As files are called on disks: the same letters may be written in two forms. */
function plainPath(path: string): string {
  return path.replace(/^\.\//, '').normalize('NFC');
}
