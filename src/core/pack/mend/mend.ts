import { candidates, ending, type Candidate, type Edit } from './candidates';
import { Places } from '../texts/places';
import { isFault, start, step, type Fault, type State } from './grammar';

/** Something in a text that is no JSON. Line and column count from 1, in the text as it came. */
export interface JsonProblem {
  line: number;
  column: number;
  /** With the likely cause: "a comma is missing behind line 12". */
  message: string;
  /** What would mend it; none where nobody can say. */
  mend?: string;
}

/** A text held against JSON. */
export interface Mended {
  problems: JsonProblem[];
  /** The text with everything mended; null where something could not be. The same where nothing was wrong. */
  text: string | null;
}

/** A text with more faults than that is none that somebody has written as JSON. */
const MOST_PROBLEMS = 100;
/** States in front of a fault in which something may be missing. */
const MOST_RECENT = 48;
/** So far behind a fault is looked whether a mend holds: all of them, then the best. */
const NEAR = 3_000;
const FAR = 60_000;
const MOST_FINALISTS = 12;

/** Finds what is wrong in a text that should be JSON, and what would mend it with the least change. */
export function mendJson(original: string): Mended {
  const problems: JsonProblem[] = [];
  const places = new Places(original);
  const done: Edit[] = [];
  let text = original;
  let state = start;
  if (text.startsWith('\uFEFF')) {
    text = text.slice(1);
    done.push({ at: 0, remove: 1, insert: '' });
    problems.push({
      ...places.at(0),
      message: 'a mark of its encoding stands in front of the text',
      mend: 'take it away',
    });
  }
  while (problems.length < MOST_PROBLEMS) {
    const read = readOn(text, state);
    if (!read.fault) return { problems, text };
    const best = bestOf(text, read.fault, read.recent);
    if (!best) {
      problems.push(unmended(original, places, originalAt(done, read.fault.at), read.fault));
      return { problems, text: null };
    }
    problems.push(problemOf(places, done, text, best));
    for (const edit of [...best.edits].reverse()) text = edited(text, edit);
    let moved = 0;
    for (const { at, remove, insert } of best.edits) {
      done.push({ at: at + moved, remove, insert });
      moved += insert.length - remove;
    }
    // A comma that was too much lies in front of the state.
    state = best.edits[0]!.at < best.from.at ? start : best.from;
  }
  return { problems, text: null };
}

/** Reads until something is wrong, or to the end. */
function readOn(text: string, from: State): { fault: Fault | null; recent: State[] } {
  let recent: State[] = [from];
  let state = from;
  for (;;) {
    const next = step(text, state);
    if (isFault(next)) return { fault: next, recent: recent.slice(-MOST_RECENT) };
    if (next === state) return { fault: null, recent };
    state = next;
    recent.push(state);
    if (recent.length > 10 * MOST_RECENT) recent = recent.slice(-MOST_RECENT);
  }
}

/** Of all that might mend a fault what lets the text be read furthest, with the least change nearest to it. */
function bestOf(text: string, fault: Fault, recent: readonly State[]): Candidate | null {
  if (fault.isTooDeep) return null;
  // Each change has to lead behind what could not be read.
  const faultAt = Math.min(fault.at, fault.openString ?? fault.at);
  const helping = (list: Iterable<Candidate>, behind: number) =>
    [...list]
      .map((one) => ({ one, reach: reachOf(text, one, fault.at + behind) }))
      .filter(({ reach }) => reach > faultAt)
      .sort((a, b) => b.reach - a.reach || a.one.cost - b.one.cost || away(a.one) - away(b.one));
  const away = ({ edits }: Candidate) => Math.abs(edits[0]!.at - fault.at);
  const near = helping(candidates(text, fault, recent), NEAR).slice(0, MOST_FINALISTS);
  const best = helping(
    near.map(({ one }) => one),
    FAR,
  )[0]?.one;
  return best ?? (fault.at >= text.trimEnd().length ? ending(text, fault, recent.at(-1)!) : null);
}

/** How far a text could be read with a change, counted in its own characters; Infinity for to its end. */
function reachOf(text: string, { from, edits }: Candidate, until: number): number {
  // What lies in front of the state is not read again.
  const begin = Math.min(from.at, edits[0]!.at);
  const isBefore = begin < from.at;
  const end = Math.min(text.length, until);
  let piece = text.slice(begin, end);
  for (const { at, remove, insert } of [...edits].reverse()) {
    piece = edited(piece, { at: at - begin, remove, insert });
  }
  const moved = edits.reduce((sum, { insert, remove }) => sum + insert.length - remove, 0);
  let state: State = { ...(isBefore ? withoutComma(from) : from), at: 0 };
  for (;;) {
    const next = step(piece, state);
    if (isFault(next)) {
      const isCutOff = end < text.length && next.at >= piece.length - 1;
      // A string that swallows what follows has not been read.
      return isCutOff ? until : (next.openString ?? next.at) - moved + begin;
    }
    if (next === state) return Infinity;
    state = next;
  }
}

/** As it was before the comma in front of it had been read. */
function withoutComma(state: State): State {
  return { ...state, expected: 'more' };
}

function edited(text: string, { at, remove, insert }: Edit): string {
  return text.slice(0, at) + insert + text.slice(at + remove);
}

/** Where a place of the mended text lay in the text as it came. */
function originalAt(done: readonly Edit[], at: number): number {
  return done.reduceRight(
    (place, edit) =>
      place > edit.at ? Math.max(edit.at, place - edit.insert.length) + edit.remove : place,
    at,
  );
}

function problemOf(
  places: Places,
  done: readonly Edit[],
  text: string,
  { edits, what }: Candidate,
): JsonProblem {
  const [{ at, remove, insert }] = edits as [Edit, ...Edit[]];
  const where = places.at(originalAt(done, at));
  const isLineEnd = remove === 0 && /^[ \t]*(\r?\n|$)/.test(text.slice(at, at + 200));
  const behind = isLineEnd ? ` behind line ${where.line}` : '';
  const mend =
    insert === '' ? 'take it away' : remove === 0 ? `put ${insert} there` : `write ${insert}`;
  return { ...where, message: `${what}${behind}`, mend };
}

function unmended(
  original: string,
  places: Places,
  at: number,
  { isTooDeep, openString }: Fault,
): JsonProblem {
  const message = isTooDeep
    ? 'brackets stand in each other too deep'
    : openString !== undefined
      ? 'a quotation mark is missing'
      : at >= original.length
        ? 'the text ends too early'
        : `“${original[at]}” cannot stand here`;
  return { ...places.at(at), message };
}
