import mustache from 'mustache';
import { BijouError } from '../../errors';
import type { TextKind, TextProblem } from './kind';
import { Places } from './places';

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
const MOST_LOOKUPS = 2_000_000;
const MOST_DEPTH = 40;

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
    this.ward.note();
    return new OwnContext(view, this.ward, this);
  }

  override lookup(name: string): unknown {
    this.ward.note();
    if (name === '.') return this.view as unknown;
    const [first, ...rest] = name.split('.');
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

  note(): void {
    if (++this.lookups > MOST_LOOKUPS) throw tooMuch();
  }

  unknown(name: string): undefined {
    this.missing.add(name);
    return undefined;
  }
}

/** Counts what has been written. */
class CountingWriter extends mustache.Writer {
  private written = 0;

  override rawValue(token: string[]): string {
    return this.counted(super.rawValue(token));
  }

  counted(text: string): string {
    this.written += text.length;
    if (this.written > MOST_TEXT) throw tooMuch();
    return text;
  }
}

/**
 * Fills a template (Mustache) with a build's data, every value written as the text's kind needs it. There are no
 * partials, no values that are not escaped, and nothing but what the data have.
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
  const ward = new Ward();
  const writer = new CountingWriter();
  const escaped = (value: unknown) => {
    const text = kind.escaped(String(value));
    return writer.counted(isAscii ? (kind.inAscii?.(text) ?? text) : text);
  };
  const text = writer.render(template, new OwnContext(data, ward), {}, { escape: escaped });
  const problems = [...ward.missing].map((name) => ({
    ...placeOf(template, name),
    message: `{{${name}}} stands for nothing here${likely(name, data)}`,
  }));
  return { text, problems };
}

type Token = [type: string, value: string, start: number, end: number, inner?: Token[] | string];

/** What of a template cannot be followed, whatever it is filled with. */
export function templateProblems(template: string): TextProblem[] {
  const places = new Places(template);
  if (template.length > MOST_TEMPLATE) {
    return [{ line: 1, column: 1, message: 'the template is too long' }];
  }
  let tokens: Token[];
  try {
    tokens = mustache.parse(template) as Token[];
  } catch (error) {
    const { message } = error as Error;
    const at = Number(/ at (\d+)$/.exec(message)?.[1] ?? 0);
    const plain = message.replace(/ at \d+$/, '');
    return [{ ...places.at(at), message: plain[0]!.toLowerCase() + plain.slice(1) }];
  }
  return [...refusedTokens(tokens, places, 0)];
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
        message: `{{>${value}}}: there are no other templates to put in`,
      };
    }
    if (type === '&') {
      yield {
        ...places.at(start),
        message: `{{{${value}}}}: every value is escaped; write {{${value}}}`,
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

function placeOf(template: string, name: string) {
  const at = template.indexOf(name);
  return new Places(template).at(Math.max(0, at));
}

/** Names that there are, where one of them is much like what was asked for. */
function likely(name: string, data: TemplateData): string {
  const known = Object.keys(data);
  const near = known.find((one) => one.toLowerCase().startsWith(name.toLowerCase().slice(0, 3)));
  return near ? `; there is {{${near}}}` : `: there are ${known.join(', ')}`;
}

function tooMuch(): BijouError {
  return new BijouError(
    'bad-setting',
    'The template comes to far too much text.',
    'See whether a list stands inside of itself.',
  );
}
