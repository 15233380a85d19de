import { BijouError } from '../errors';

/** Characters that names may have, by code point. */
export type Allowed = (character: string) => boolean;

const read = new Map<string, Allowed>();
/** Destinations have a few lists; thousands of names are held against each. */
const MOST_READ = 100;

/**
 * Reads a list of characters with ranges, "a-z0-9_-": a hyphen at one end is itself.
 * @throws bad-setting for a range that runs backwards.
 */
export function allowedCharacters(list: string): Allowed {
  const known = read.get(list);
  if (known) return known;
  const allowed = readList(list);
  if (read.size >= MOST_READ) read.clear();
  read.set(list, allowed);
  return allowed;
}

function readList(list: string): Allowed {
  const letters = [...list];
  const ranges: [number, number][] = [];
  for (let i = 0; i < letters.length; i++) {
    const from = letters[i]!.codePointAt(0)!;
    const to = letters[i + 1] === '-' ? letters[i + 2]?.codePointAt(0) : undefined;
    if (to === undefined) {
      ranges.push([from, from]);
      continue;
    }
    if (to < from) throw backwards(letters.slice(i, i + 3).join(''));
    ranges.push([from, to]);
    i += 2;
  }
  return (character) => {
    const code = character.codePointAt(0)!;
    return ranges.some(([from, to]) => code >= from && code <= to);
  };
}

/** Letters that do not come apart into one of the alphabet and a mark. */
const spelled: Record<string, string> = {
  ß: 'ss',
  æ: 'ae',
  Æ: 'AE',
  ø: 'o',
  Ø: 'O',
  œ: 'oe',
  Œ: 'OE',
  ł: 'l',
  Ł: 'L',
  đ: 'd',
  Đ: 'D',
  ð: 'd',
  þ: 'th',
  ı: 'i',
};

/** A text of allowed characters alone: marks come off, and what is left over becomes the joiner. */
export function inCharacters(
  text: string,
  isAllowed: Allowed,
  joiner: string,
  inCase = (letters: string) => letters,
): string {
  const composed = text.normalize('NFC');
  const whole = [...composed];
  if (whole.every(isAllowed)) return composed;
  const letters = whole.map((letter) => {
    if (isAllowed(letter)) return letter;
    const plain = inCase(spelled[letter] ?? letter.normalize('NFKD').replace(/\p{M}/gu, ''));
    return [...plain].every(isAllowed) ? plain : null;
  });
  let out = '';
  for (const letter of letters) {
    if (letter !== null) out += letter;
    // Neither at the beginning nor twice.
    else if (out !== '' && !out.endsWith(joiner)) out += joiner;
  }
  const isEndLoose = letters.at(-1) === null && joiner !== '' && out.endsWith(joiner);
  return isEndLoose ? out.slice(0, -joiner.length) : out;
}

function backwards(range: string): BijouError {
  return new BijouError(
    'bad-setting',
    `The range "${range}" runs backwards.`,
    'Write the lower end first, as in "a-z".',
  );
}
