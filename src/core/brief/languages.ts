import { groupBy } from '../group';
import { LANGUAGE } from './schema';

/** What tells which line of a text somebody speaks, and in which language. */
export interface Spoken {
  name: string;
  /** Parts joined with "/"; "" for none. */
  group: string;
  language: string | null;
}

/** A line that is not there in every language. */
export interface MissingLine {
  /** With its group in front: "voices/hello". */
  line: string;
  /** Languages in which it is there, and those in which it is not. */
  there: string[];
  missing: string[];
}

const BETWEEN = /[ _.-]/;

/** What a line is called in every language: without what says the language in its name and groups. */
export function lineOf({ name, group, language }: Spoken): string {
  const groups = group.split('/').filter((part) => part !== '' && part.toLowerCase() !== language);
  return [...groups, language === null ? name : withoutLanguage(name, language)].join('/');
}

function withoutLanguage(name: string, language: string): string {
  const lower = name.toLowerCase();
  const behind = name.length - language.length - 1;
  if (behind > 0 && lower.endsWith(language) && BETWEEN.test(name[behind]!)) {
    return name.slice(0, behind);
  }
  const isInFront = lower.startsWith(language) && BETWEEN.test(name[language.length] ?? '');
  return isInFront && name.length > language.length + 1 ? name.slice(language.length + 1) : name;
}

/** Lines that are spoken in some of the languages and not in all, in the order of their names. */
export function missingLines(
  sounds: readonly Spoken[],
  languages: readonly string[],
): MissingLine[] {
  const spoken = sounds.filter(({ language }) => language !== null && languages.includes(language));
  return [...groupBy(spoken, lineOf)]
    .map(([line, all]) => {
      const there = languages.filter((one) => all.some(({ language }) => language === one));
      return { line, there, missing: languages.filter((one) => !there.includes(one)) };
    })
    .filter(({ missing }) => missing.length > 0)
    .sort((a, b) => (a.line < b.line ? -1 : 1));
}

/** Languages that are told apart by two letters and that sounds are usually spoken in. */
const known = new Set(
  'ar bg cs da de el en es et fi fr he hi hr hu id is it ja ko lt lv nb nl no pl pt ro ru sk sl sr sv th tr uk vi zh'.split(
    ' ',
  ),
);

/** The language that a name or its groups say: "hello_de", "voices/fr"; null where they say none. */
export function languageIn({ name, group }: Pick<Spoken, 'name' | 'group'>): string | null {
  const parts = group.toLowerCase().split('/').reverse();
  const ends = name.toLowerCase().split(BETWEEN);
  const found = [...parts, ends.at(-1) ?? '', ends.length > 1 ? ends[0]! : ''].find((part) =>
    known.has(part),
  );
  return found ?? null;
}

/** A language as somebody typed it; null for what is none. */
export function typedLanguage(typed: string): string | null {
  const text = typed.trim().toLowerCase().replaceAll('_', '-');
  return LANGUAGE.test(text) ? text : null;
}
