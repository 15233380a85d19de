import { BijouError } from '../errors';
import type { NameDemands } from '../brief/schema';
import { allowedCharacters, inCharacters } from './characters';
import { diskKey } from './diskKey';
import { safeFileName } from './names';
import { filledPattern, hasToken, type TokenValues } from './pattern';

/** What a destination demands of names and folders. */
export interface NamingDemands {
  names?: NameDemands | undefined;
  folder?: string | undefined;
}

/** A file that is to have a name. */
export interface FileToName {
  demands: NamingDemands;
  /** Files that can meet: those of one destination. */
  place: string;
  values: TokenValues;
  /** Of its name, without the dot; empty for none. */
  ending: string;
  /** Chosen for this file alone, in place of the pattern. */
  own?: string | undefined;
  /** Exact places of the layout that it fills, in place of one under its own name. */
  slots?: readonly string[] | undefined;
}

/** The name of a file, with the folders inside of its destination in front. */
export interface GivenName {
  /** "voices/en/hello.ogg". */
  path: string;
  name: string;
  /** Everywhere where it lies: in each slot that it fills, else there alone. */
  paths: readonly string[];
  /** Another file of the destination has the same, where they may not be numbered. */
  meets: boolean;
  /** What tells the name apart that it would have alone. Empty for what fills a slot. */
  wanted: string;
  /** What tells the one apart that it has, likewise. */
  key: string;
  /** It passed over a name that files of another name have. */
  passed: boolean;
}

const JOINER = '-';

/**
 * The name of each file, in their order. Those that meet, without regard to case and Unicode form, are numbered, or
 * are said to meet. Files of other endings do not meet, so that the encodings of one sound keep one name.
 */
export function givenNames(files: readonly FileToName[]): GivenName[] {
  // What fills a slot lies there, whatever the others are called.
  const taken = new Map<string, { count: number; by: string }>(
    files.flatMap(({ place, slots = [] }) =>
      slots.map((path) => [placeKeyOf(place, path), { count: 1, by: '' }] as const),
    ),
  );
  // Where counting goes on, so that a thousand alike are not counted a thousand times.
  const counts = new Map<string, number>();
  const given = files.map((file): Omit<GivenName, 'meets'> => {
    const [slot] = file.slots ?? [];
    if (slot !== undefined) {
      const name = slot.split('/').at(-1)!;
      return { path: slot, name, paths: file.slots!, wanted: '', key: '', passed: false };
    }
    const { names = {} } = file.demands;
    const base = baseName(file);
    const folder = folderOf(file);
    const inFolder = (name: string) => (folder === '' ? name : `${folder}/${name}`);
    const keyOf = (name: string) => placeKeyOf(file.place, inFolder(name));
    const wanted = keyOf(fitted(base, 1, file.ending, names));
    let passed = false;
    for (let n = counts.get(wanted) ?? 1; ; n++) {
      const name = fitted(base, n, file.ending, names);
      const key = keyOf(name);
      const there = taken.get(key);
      passed ||= there !== undefined && there.by !== wanted;
      if (there && names.meeting !== 'refuse') continue;
      taken.set(key, { count: (there?.count ?? 0) + 1, by: wanted });
      if (names.meeting !== 'refuse') counts.set(wanted, n + 1);
      const path = inFolder(name);
      return { path, name, paths: [path], wanted, key, passed };
    }
  });
  return given.map((one) => ({ ...one, meets: (taken.get(one.key)?.count ?? 0) > 1 }));
}

function placeKeyOf(place: string, path: string): string {
  return `${place}/${diskKey(path)}`;
}

/** The name without its ending, before it is made to fit in length. */
function baseName({ demands: { names = {} }, values, own }: FileToName): string {
  const { pattern = '{name}' } = names;
  const filled = filledPattern(own ?? pattern, {
    ...values,
    group: values.group.replaceAll('/', JOINER),
  });
  const isPlaced = own !== undefined || hasToken(pattern, 'prefix');
  const prefixed = isPlaced ? filled : `${values.prefix}${filled}`;
  return cleaned(prefixed, names) || cleaned('sound', names) || safeFileName('sound');
}

/** In the case and of the characters that are demanded, and safe on every common system. */
export function cleaned(text: string, names: NameDemands): string {
  const inCase = caseOf(names);
  const cased = inCase(text);
  const { characters } = names;
  if (characters === undefined) return cased.trim() === '' ? '' : safeFileName(cased);
  const fit = (part: string) =>
    inCharacters(part, allowedCharacters(characters), joinerOf(names), inCase);
  const allowed = fit(cased);
  const safe = allowed === '' ? '' : safeFileName(allowed);
  // Names that are kept for devices become others, in the characters that are allowed.
  return safe === allowed ? allowed : fit(inCase(safe));
}

function caseOf({ case: letterCase }: NameDemands): (text: string) => string {
  if (letterCase === undefined) return (text) => text;
  return letterCase === 'lower' ? (text) => text.toLowerCase() : (text) => text.toUpperCase();
}

/** What stands in the place of characters that may not be there, itself one that may. */
function joinerOf({ joiner, characters }: NameDemands): string {
  if (joiner !== undefined || characters === undefined) return joiner ?? JOINER;
  return [JOINER, '_'].find(allowedCharacters(characters)) ?? '';
}

/** What tells the second, third … of one name apart: in letters where there are no figures. */
function numberOf(n: number, names: NameDemands): string {
  if (n === 1) return '';
  const { characters } = names;
  const hasFigures = characters === undefined || allowedCharacters(characters)('0');
  return `${joinerOf(names)}${hasFigures ? n : caseOf(names)(inLetters(n))}`;
}

/** 1 is a, 27 is aa. */
function inLetters(n: number): string {
  const rest = Math.floor((n - 1) / 26);
  return `${rest > 0 ? inLetters(rest) : ''}${String.fromCharCode(97 + ((n - 1) % 26))}`;
}

/** As long as it may be, with its ending and its number. */
function fitted(base: string, n: number, ending: string, names: NameDemands): string {
  const { longest = 255 } = names;
  const number = numberOf(n, names);
  const dot = ending === '' ? '' : `.${ending}`;
  const room = Math.max(1, longest - number.length - dot.length);
  const letters = [...base];
  const short = letters.length > room ? letters.slice(0, room).join('').trimEnd() : base;
  return `${short}${number}${dot}`;
}

/** Folders are spelled as names are. */
function folderOf({ demands: { folder, names = {} }, values }: FileToName): string {
  if (folder === undefined) return '';
  return filledPattern(folder, values)
    .split('/')
    .map((part) => (part.trim() === '' ? '' : cleaned(part, names)))
    .filter(Boolean)
    .join('/');
}

/** Why two files cannot be told apart. */
export function namesMeet(path: string): BijouError {
  return new BijouError(
    'already-there',
    `Another sound would be “${path}” here too, and the destination takes no numbered names.`,
    'Give one of them another name, here or in Collect.',
  );
}
