import { isNestedTooDeep } from '../../nesting';
import { candidates, ending, scarOf, type Candidate, type Edit } from './candidates';
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
/** Of equal ones so many are tried further on, to so many more faults. */
const MOST_AHEAD = 5;
const FAULTS_AHEAD = 8;

/**
 * How much may be read to mend one fault, in characters: so much in any text, and so many times its own length. Whatever
 * somebody has written takes a part of it; a text of nothing but signs would take minutes.
 */
const LEAST_READING = 4_000_000;
const READINGS = 40;
/** … and for all faults together. */
const MOST_READING = 150_000_000;
/** What one try takes beside its characters, and how much quicker characters are copied than read. */
const TRY = 40;
const COPYING = 16;

/** Sees to it that mending comes to an end. */
class Patience {
  private all = MOST_READING;
  private left = 0;

  constructor(private readonly text: string) {
    this.renew();
  }

  /** For the next fault. */
  renew(): void {
    this.left = LEAST_READING + READINGS * this.text.length;
  }

  read(characters: number): void {
    this.left -= characters + TRY;
    this.all -= characters + TRY;
    if (this.left < 0 || this.all < 0) throw new OutOfPatience();
  }
}

class OutOfPatience extends Error {}

/** Finds what is wrong in a text that should be JSON, and what would mend it with the least change. */
export function mendJson(original: string): Mended {
  if (isRight(original)) return { problems: [], text: original };
  const problems: JsonProblem[] = [];
  try {
    return mended(original, problems, new Patience(original));
  } catch (error) {
    if (!(error instanceof OutOfPatience)) throw error;
    const { line, column } = problems.at(-1) ?? { line: 1, column: 1 };
    problems.push({ line, column, message: 'from here on too much is wrong to be mended' });
    return { problems, text: null };
  }
}

/** Told soon: most texts are, and of ten thousand sounds they have megabytes. */
function isRight(text: string): boolean {
  if (isNestedTooDeep(text)) return false;
  try {
    JSON.parse(text);
    return true;
  } catch {
    return false;
  }
}

function mended(original: string, problems: JsonProblem[], patience: Patience): Mended {
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
    patience.renew();
    const read = readOn(text, state, patience);
    if (!read.fault) return { problems, text };
    const best = bestOf(text, read.fault, read.recent, patience);
    if (!best) {
      problems.push(unmended(original, places, originalAt(done, read.fault.at), read.fault));
      return { problems, text: null };
    }
    problems.push(problemOf(places, done, text, best));
    let moved = 0;
    for (const { at, remove, insert } of best.edits) {
      done.push({ at: at + moved, remove, insert });
      moved += insert.length - remove;
    }
    patience.read(text.length / COPYING);
    ({ text, state } = mendedBy(text, best));
  }
  return { problems, text: null };
}

/** Reads until something is wrong, or to the end. */
function readOn(
  text: string,
  from: State,
  patience: Patience,
): { fault: Fault | null; recent: State[] } {
  let recent: State[] = [from];
  let state = from;
  for (;;) {
    const next = step(text, state);
    if (isFault(next) || next === state) patience.read(state.at - from.at);
    if (isFault(next)) return { fault: next, recent: recent.slice(-MOST_RECENT) };
    if (next === state) return { fault: null, recent };
    state = next;
    recent.push(state);
    if (recent.length > 10 * MOST_RECENT) recent = recent.slice(-MOST_RECENT);
  }
}

/** The text with a change, and the state from which it is read on. */
function mendedBy(text: string, { from, edits }: Candidate): { text: string; state: State } {
  const mended = [...edits].reverse().reduce(edited, text);
  // A comma that was too much lies in front of the state.
  return { text: mended, state: edits[0]!.at < from.at ? start : from };
}

/**
 * Of all that might mend a fault what lets the text be read furthest, with the least change nearest to it. Where
 * several come as far, to the next fault, what comes behind that tells.
 */
function bestOf(
  text: string,
  fault: Fault,
  recent: readonly State[],
  patience: Patience,
  looksAhead = true,
): Candidate | null {
  if (fault.isTooDeep) return null;
  // Each change has to lead behind what could not be read.
  const faultAt = Math.min(fault.at, fault.openString ?? fault.at);
  const away = ({ edits }: Candidate) => Math.abs(edits[0]!.at - fault.at);
  const helping = (list: Iterable<Candidate>, behind: number) =>
    [...list]
      .map((one) => ({ one, reach: reachOf(text, one, fault.at + behind, patience) }))
      .filter(({ reach }) => reach > faultAt)
      .sort(
        (a, b) =>
          b.reach - a.reach ||
          a.one.cost - b.one.cost ||
          scarOf(text, a.one) - scarOf(text, b.one) ||
          away(a.one) - away(b.one),
      );
  const near = helping(candidates(text, fault, recent), NEAR).slice(0, MOST_FINALISTS);
  const far = helping(
    near.map(({ one }) => one),
    FAR,
  );
  const [first] = far;
  if (!first) {
    return fault.at >= text.trimEnd().length ? ending(text, fault, recent.at(-1)!) : null;
  }
  const equal = far.filter(
    ({ one, reach }) => reach === first.reach && one.cost === first.one.cost,
  );
  // Only brackets lead to faults that are found much later.
  const isOpen = equal.some(({ one }) => /[[\]{}]/.test(one.edits[0]!.insert));
  if (!looksAhead || equal.length === 1 || !isOpen || first.reach === Infinity) return first.one;
  const ahead = equal
    .slice(0, MOST_AHEAD)
    .map(({ one }) => ({ one, faults: faultsAhead(text, one, patience) }));
  return ahead.reduce((best, other) => (other.faults < best.faults ? other : best)).one;
}

/** How many faults a text still has with a change, of the next few. */
function faultsAhead(before: string, candidate: Candidate, patience: Patience): number {
  patience.read(before.length / COPYING);
  let { text, state } = mendedBy(before, candidate);
  for (let faults = 0; faults < FAULTS_AHEAD; faults++) {
    const { fault, recent } = readOn(text, state, patience);
    if (!fault) return faults;
    const best = bestOf(text, fault, recent, patience, false);
    if (!best) return Infinity;
    patience.read(text.length / COPYING);
    ({ text, state } = mendedBy(text, best));
  }
  return FAULTS_AHEAD;
}

/** How far a text could be read with a change, counted in its own characters; Infinity for to its end. */
function reachOf(
  text: string,
  { from, edits }: Candidate,
  until: number,
  patience: Patience,
): number {
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
    if (isFault(next) || next === state) patience.read(state.at + piece.length / COPYING);
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
