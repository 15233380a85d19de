/** A word that stands in a template's text for whatever value may come there, to see where that would stand. */
const LETTERS = 6;

/** Words without any meaning, one for each placeholder of a template; none of them occurs in it. */
export class StandIns {
  private readonly head: string;
  private readonly pattern: RegExp;
  /** Each with the place of its placeholder in the template. */
  readonly places = new Map<string, number>();

  constructor(template: string) {
    let head = 'qword';
    while (template.includes(head)) head += 'q';
    this.head = head;
    this.pattern = new RegExp(`${head}[a-j]{${LETTERS}}`, 'g');
  }

  /** The word for the placeholder at a place of the template. */
  at(place: number): string {
    const digits = String(place).padStart(LETTERS, '0');
    const word = this.head + digits.replace(/\d/g, (digit) => 'abcdefghij'[Number(digit)]!);
    this.places.set(word, place);
    return word;
  }

  /** Every word in a piece of text, with where it stands in it. */
  *in(text: string): Generator<{ word: string; at: number; end: number }> {
    for (const { 0: word, index: at } of text.matchAll(this.pattern)) {
      yield { word, at, end: at + word.length };
    }
  }
}

/** What is to be thought of a value that stands where a word stands. */
export interface Standing {
  word: string;
  /** Why no value may stand there, and what would do; null where its escaping holds. */
  problem: { message: string; cure: string } | null;
  /** How a value is escaped there, if not as everywhere in such a text. */
  escaped?(value: string): string;
}

/** Whether a sign at a place is itself escaped by a backslash in front of it. */
function isBehindBackslash(text: string, at: number): boolean {
  let slashes = 0;
  while (text[at - 1 - slashes] === '\\') slashes++;
  return slashes % 2 === 1;
}

/** Standings of all words in a piece, alike. */
export function* allIn(
  words: StandIns,
  piece: string,
  problem: Standing['problem'] = null,
  escaped?: Standing['escaped'],
): Generator<Standing> {
  for (const { word } of words.in(piece)) yield { word, problem, ...(escaped && { escaped }) };
}

/** Standings of all words in a string that knows backslashes; `from` is where the string begins in the text. */
export function* inString(
  words: StandIns,
  text: string,
  from: number,
  end: number,
): Generator<Standing> {
  for (const { word, at } of words.in(text.slice(from, end))) {
    yield {
      word,
      problem: isBehindBackslash(text, from + at) ? BEHIND_BACKSLASH : null,
    };
  }
}

const BEHIND_BACKSLASH = {
  message: 'a backslash in front of it would change what it begins with',
  cure: 'Take the backslash away.',
};

/** Standings of all words in a comment between slashes and stars: two signs together would end it. */
export function* inStarComment(
  words: StandIns,
  text: string,
  from: number,
  end: number,
): Generator<Standing> {
  const found = [...words.in(text.slice(from, end))];
  const starts = new Set(found.map(({ at }) => from + at));
  const ends = new Set(found.map((one) => from + one.end));
  for (const { word, at, end: behind } of found) {
    const [first, last] = [from + at, from + behind];
    const isClose =
      /[*/]/.test(text[first - 1] ?? '') ||
      /[*/]/.test(text[last] ?? '') ||
      ends.has(first) ||
      starts.has(last);
    yield { word, problem: isClose ? CLOSE_TO_SIGN : null };
  }
}

const CLOSE_TO_SIGN = {
  message: 'together with what stands right beside it, it could end the comment',
  cure: 'Put a blank on both sides of it.',
};
