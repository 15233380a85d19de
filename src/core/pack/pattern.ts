import { BijouError } from '../errors';

/** What stands in names and folders for something of the sound: in braces, numbers with their digits. */
export const nameTokens = {
  name: 'the sound’s name',
  group: 'its group; in folders each part is a folder',
  number: 'its place in the brief; {number:3} with three digits',
  format: 'the format, for where endings are hidden',
  language: 'the language it is in',
  prefix: 'what is chosen for the sound alone, to move it in sorted lists',
} as const;
export type NameToken = keyof typeof nameTokens;

/** What the tokens stand for, for one file. */
export type TokenValues = Record<Exclude<NameToken, 'number'>, string> & { number: number };

const TOKEN = /\{(\w*)(?::(\d+))?\}/g;
const MOST_DIGITS = 9;

/** @throws bad-setting for a token that does not exist, and for braces that are none. */
export function checkPattern(pattern: string): void {
  for (const [token, name, digits] of pattern.matchAll(TOKEN)) {
    const isDigits = digits === undefined || (name === 'number' && isDigitCount(digits));
    if (Object.hasOwn(nameTokens, name!) && isDigits) continue;
    throw unknownToken(token);
  }
  const loose = /[{}]/.exec(pattern.replace(TOKEN, ''));
  if (loose) throw unknownToken(loose[0]);
}

function isDigitCount(digits: string): boolean {
  return Number(digits) >= 1 && Number(digits) <= MOST_DIGITS;
}

/** Whether a pattern depends on a token. */
export function hasToken(pattern: string | undefined, token: NameToken): boolean {
  return [...(pattern ?? '').matchAll(TOKEN)].some(([, name]) => name === token);
}

/** The pattern with everything put in its place. What is empty takes along what would part it from the rest. */
export function filledPattern(pattern: string, values: TokenValues): string {
  return pattern
    .replace(TOKEN, (_, name: NameToken, digits: string | undefined) =>
      name === 'number'
        ? String(values.number).padStart(Number(digits ?? 1), '0')
        : values[name] || EMPTY,
    )
    .replace(PARTED_EMPTY, '');
}

/** Occurs in no name. */
const EMPTY = '\0';
const PARTED_EMPTY = /\0[-_. ]+|[-_. ]+\0|\0/g;

function unknownToken(token: string): BijouError {
  return new BijouError(
    'bad-setting',
    `"${token}" stands for nothing in names.`,
    `Use ${Object.keys(nameTokens)
      .map((name) => `{${name}}`)
      .join(', ')}, or {number:3} for three digits.`,
  );
}
