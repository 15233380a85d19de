import { mendJson } from '../../pack/mend/mend';
import { either } from '../../tradeNames';
import type { Checking } from '../checks';
import { MOST_SAID } from '../limits';
import { fileAt, type FoundFile, type FoundPack } from '../pack';
import { readText } from '../text';
import { DESCRIPTOR } from './rules';

/** Editions of mods that this island takes, its own first. */
const editions = [3, 2] as const;
const LONGEST_TITLE = 60;

/** What a mod says of itself. */
export interface Descriptor {
  title: string;
  edition: number;
  author: string;
  /** Paths of its icon and its index of calls. */
  icon: string;
  calls: string;
}

/** What the island reads first, which has to lie at the root; undefined, and refused, where it does not. */
export function descriptorIn(pack: FoundPack, checking: Checking): FoundFile | undefined {
  const file = fileAt(pack, DESCRIPTOR);
  if (file) checking.met(DESCRIPTOR, 'root', ASKED_ROOT, 'there');
  else refuseRoot(pack, checking);
  return file;
}

/** Reads what the island reads first; null where it is refused. */
export async function readDescriptor(
  file: FoundFile,
  checking: Checking,
): Promise<Descriptor | null> {
  const text = await readText(file, checking);
  if (text === null) return null;
  const { problems } = mendJson(text);
  if (problems.length > 0) {
    for (const { line, column, message, mend } of problems.slice(0, MOST_SAID)) {
      checking.refuse(DESCRIPTOR, {
        rule: 'descriptor',
        asked: 'JSON',
        found: `line ${line}, column ${column}: ${message}`,
        cure: mend ?? 'Correct it there.',
      });
    }
    return null;
  }
  return held(JSON.parse(text) as unknown, checking);
}

const ASKED_ROOT = `${DESCRIPTOR} at the root`;

function refuseRoot({ name, files }: FoundPack, checking: Checking): void {
  const deeper = files.find(({ path }) => path.endsWith(`/${DESCRIPTOR}`));
  const folder = deeper?.path.slice(0, -DESCRIPTOR.length - 1);
  checking.refuse(name, {
    rule: 'root',
    asked: ASKED_ROOT,
    found: folder ? `it lies in the folder “${folder}”` : 'there is none',
    cure: folder
      ? 'Zip what is in the folder, not the folder.'
      : 'Make the pack by a layout that writes it.',
  });
}

/** Holds what was read against what the island wants to know. */
function held(value: unknown, checking: Checking): Descriptor | null {
  const fields = (typeof value === 'object' && value !== null ? value : {}) as Record<
    string,
    unknown
  >;
  const own = (name: string) => (Object.hasOwn(fields, name) ? fields[name] : undefined);
  const refuse = (asked: string, found: string, cure: string, rule = 'descriptor') =>
    checking.refuse(DESCRIPTOR, { rule, asked, found, cure });
  const textOf = (name: string, most: number): string | null => {
    const given = own(name);
    const length = typeof given === 'string' ? [...given].length : 0;
    if (typeof given === 'string' && length > 0 && length <= most) return given;
    const found =
      length > most ? `${length} characters` : given === undefined ? 'nothing' : shown(given);
    refuse(`a text “${name}” of 1 to ${most} characters`, found, `Write “${name}” into it.`);
    return null;
  };
  const title = textOf('title', LONGEST_TITLE);
  const author = textOf('author', LONGEST_TITLE);
  const icon = textOf('icon', 240);
  const calls = textOf('calls', 240);
  const edition = own('edition');
  const asked = `edition ${either(editions.map(String))}`;
  if (typeof edition !== 'number') {
    refuse('a number as “edition”', shown(edition), 'Write it as a number, without quotes.');
  } else if (!(editions as readonly number[]).includes(edition)) {
    const [newest] = editions;
    const found = `edition ${shown(edition)}`;
    refuse(asked, found, `Set the edition to ${newest}, that of this island.`, 'edition');
  } else if (edition !== editions[0]) {
    checking.warn(DESCRIPTOR, {
      rule: 'edition',
      asked: `edition ${editions[0]}`,
      found: `edition ${edition}, that of an older island`,
      cure: `Set the edition to ${editions[0]} if it is made for this island.`,
    });
  } else {
    checking.met(DESCRIPTOR, 'edition', asked, `edition ${edition}`);
  }
  if (title === null || author === null || icon === null || calls === null) return null;
  if (typeof edition !== 'number') return null;
  checking.met(DESCRIPTOR, 'descriptor', 'title, author, icon and calls', `“${title}”`);
  return { title, author, icon, calls, edition };
}

function shown(value: unknown): string {
  return value === undefined ? 'nothing' : JSON.stringify(value).slice(0, 40);
}
