import mustache from 'mustache';
import { BijouError } from '../../errors';
import type { TextKind, TextProblem } from './kind';
import { Places } from './places';
import { StandIns, type Standing } from './standIns';

/** What a template can say: plain data, nothing that does something. */
export type TemplateData = { readonly [name: string]: TemplateValue };
export type TemplateValue =
  string | number | boolean | null | TemplateData | readonly TemplateValue[];

/** A template, filled. */
export interface FilledTemplate {
  text: string;
  problems: TextProblem[];
}

const MOST_TEMPLATE = 200_000;
/** Lists inside of lists grow fast: a text that comes to more than that is given up. */
const MOST_TEXT = 16_000_000;
/** Names that are looked for, each part of a path counted. */
const MOST_LOOKUPS = 2_000_000;
const MOST_DEPTH = 40;
/** More of them are no help to anybody. */
const MOST_PROBLEMS = 50;

/** Mustache's, with names that are only looked for among what the data themselves have. */
class OwnContext extends mustache.Context {
  constructor(
    view: unknown,
    private readonly ward: Ward,
    private readonly above: OwnContext | null = null,
  ) {
    super(view, above ?? undefined);
  }

  override push(view: unknown): OwnContext {
    this.ward.note(1);
    return new OwnContext(view, this.ward, this);
  }

  override lookup(name: string): unknown {
    if (name === '.') return this.view as unknown;
    const [first, ...rest] = this.ward.parts(name);
    this.ward.note(1 + rest.length);
    const value = rest.reduce<unknown>((inner, part) => own(inner, part), this.nearest(first!));
    return value === undefined ? this.ward.unknown(name) : value;
  }

  /** What stands for a name here, else in what is around. */
  private nearest(name: string): unknown {
    const found = own(this.view, name);
    return found === undefined ? this.above?.nearest(name) : found;
  }
}

function own(owner: unknown, name: string): unknown {
  const isOwner = typeof owner === 'object' && owner !== null && !Array.isArray(owner);
  if (!isOwner || !Object.hasOwn(owner, name)) return undefined;
  const value = (owner as Record<string, unknown>)[name];
  return typeof value === 'function' ? undefined : value;
}

/** Sees to it that filling a template comes to an end, and remembers what it asked for that there is not. */
class Ward {
  readonly missing = new Set<string>();
  private lookups = 0;
  private readonly split = new Map<string, readonly string[]>();

  note(lookups: number): void {
    this.lookups += lookups;
    if (this.lookups > MOST_LOOKUPS) throw tooMuch();
  }

  /** The parts of a path, taken apart once. */
  parts(name: string): readonly string[] {
    const parts = this.split.get(name) ?? name.split('.');
    this.split.set(name, parts);
    return parts;
  }

  unknown(name: string): undefined {
    if (this.missing.size < MOST_PROBLEMS) this.missing.add(name);
    return undefined;
  }
}

/** A value that is to be written, and where in the template it is asked for. */
type Write = (value: unknown, place: number) => string;

/**
 * Mustache's, which would keep every template that it has ever parsed: by its whole text, even where it is thrown away
 * itself.
 */
class ForgetfulWriter extends mustache.Writer {
  constructor() {
    super();
    (this as { templateCache?: unknown }).templateCache = undefined;
  }
}

/** Counts what has been written. */
class CountingWriter extends ForgetfulWriter {
  private written = 0;

  constructor(private readonly value: Write) {
    super();
  }

  override rawValue(token: string[]): string {
    return this.counted(super.rawValue(token));
  }

  override escapedValue(token: string[], context: mustache.Context): string {
    const value = context.lookup(token[1]!) as unknown;
    return value === undefined || value === null
      ? ''
      : this.counted(this.value(value, Number(token[2])));
  }

  private counted(text: string): string {
    this.written += text.length;
    if (this.written > MOST_TEXT) throw tooMuch();
    return text;
  }
}

/**
 * Fills a template (Mustache) with a build's data, every value written as the text's kind needs it. There are no
 * partials, no values that are not escaped, and nothing but what the data have; and a value comes only where its
 * escaping holds: whatever it is, the text has the structure that it has with a plain word in its place.
 * @throws bad-setting for a template that comes to far too much
 */
export function filledTemplate(
  template: string,
  data: TemplateData,
  kind: TextKind,
  isAscii: boolean,
): FilledTemplate {
  const refused = templateProblems(template);
  if (refused.length > 0) return { text: '', problems: refused };
  const words = new StandIns(template);
  const ward = new Ward();
  const render = (write: Write) =>
    new CountingWriter(write).render(template, new OwnContext(data, ward), {});
  // Numbers are the same everywhere.
  const plain = render((value, place) =>
    typeof value === 'number' || typeof value === 'boolean' ? String(value) : words.at(place),
  );
  const standings = standingsOf(plain, words, kind);
  const places = new Places(template);
  const misplaced = [...standings].flatMap(([place, { problem }]) =>
    problem ? [{ ...places.at(place), ...misplacedBy(template, place, problem) }] : [],
  );
  const problems = [...missingProblems(template, [...ward.missing], data), ...misplaced];
  if (misplaced.length > 0) return { text: '', problems: problems.slice(0, MOST_PROBLEMS) };
  const text = render((value, place) => {
    const escaped = (standings.get(place)?.escaped ?? kind.escaped)(String(value));
    return isAscii ? (kind.inAscii?.(escaped) ?? escaped) : escaped;
  });
  return { text, problems };
}

function misplacedBy(template: string, place: number, { message, cure }: Problem): Problem {
  const [, name = ''] = /^\{\{([^}]*)/.exec(template.slice(place, place + 2 * SHOWN)) ?? [];
  return { message: `{{${shortened(name.trim())}}} cannot stand here: ${message}`, cure };
}

type Problem = NonNullable<Standing['problem']>;

/** What is to be thought of each placeholder, by its place in the template: one that stands wrongly anywhere does so. */
function standingsOf(
  text: string,
  words: StandIns,
  kind: TextKind,
): Map<number, Omit<Standing, 'word'>> {
  const found = new Map<number, Omit<Standing, 'word'>>();
  for (const { word, problem, escaped } of kind.standings(text, words)) {
    const place = words.places.get(word)!;
    const before = found.get(place);
    found.set(place, {
      problem: before?.problem ?? problem,
      ...((before?.escaped ?? escaped) && { escaped: before?.escaped ?? escaped! }),
    });
  }
  for (const place of words.places.values()) {
    if (!found.has(place)) found.set(place, { problem: BARE });
  }
  return found;
}

const BARE = {
  message: 'whatever it holds would be read as a part of the text around it',
  cure: 'Write double quotation marks around it.',
};

type Token = [type: string, value: string, start: number, end: number, inner?: Token[] | string];

/** What of a template cannot be followed, whatever it is filled with. */
export function templateProblems(template: string): TextProblem[] {
  const places = new Places(template);
  if (template.length > MOST_TEMPLATE) {
    return [{ line: 1, column: 1, message: 'the template is too long' }];
  }
  let tokens: Token[];
  try {
    tokens = new ForgetfulWriter().parse(template) as Token[];
  } catch (error) {
    const { message } = error as Error;
    const at = Number(/ at (\d+)$/.exec(message)?.[1] ?? 0);
    const plain = message.replace(/ at \d+$/, '');
    return [{ ...places.at(at), message: plain[0]!.toLowerCase() + plain.slice(1) }];
  }
  const problems: TextProblem[] = [];
  for (const problem of refusedTokens(tokens, places, 0)) {
    if (problems.push(problem) >= MOST_PROBLEMS) break;
  }
  return problems;
}

function* refusedTokens(
  tokens: readonly Token[],
  places: Places,
  depth: number,
): Generator<TextProblem> {
  for (const [type, value, start, , inner] of tokens) {
    if (type === '>') {
      yield {
        ...places.at(start),
        message: `{{>${shortened(value)}}}: there are no other templates to put in`,
      };
    }
    if (type === '&') {
      yield {
        ...places.at(start),
        message: `{{{${shortened(value)}}}}: every value is escaped; write {{${shortened(value)}}}`,
      };
    }
    if (!Array.isArray(inner)) continue;
    if (depth >= MOST_DEPTH) {
      yield { ...places.at(start), message: 'sections stand in each other too deep' };
    } else {
      yield* refusedTokens(inner, places, depth + 1);
    }
  }
}

function missingProblems(
  template: string,
  missing: readonly string[],
  data: TemplateData,
): TextProblem[] {
  const places = new Places(template);
  return missing.map((name) => ({
    ...places.at(Math.max(0, template.indexOf(name))),
    message: `{{${shortened(name)}}} stands for nothing here${likely(name, data)}`,
  }));
}

/** Names that there are, where one of them is much like what was asked for. */
function likely(name: string, data: TemplateData): string {
  const known = Object.keys(data);
  const near = known.find((one) => one.toLowerCase().startsWith(name.toLowerCase().slice(0, 3)));
  return near ? `; there is {{${near}}}` : `: there are ${known.join(', ')}`;
}

const SHOWN = 80;
const shortened = (name: string) => (name.length > SHOWN ? `${name.slice(0, SHOWN)}…` : name);

function tooMuch(): BijouError {
  return new BijouError(
    'bad-setting',
    'The template comes to far too much text.',
    'See whether a list stands inside of itself.',
  );
}
