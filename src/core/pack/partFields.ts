import type { LayoutField } from '../brief/layout';
import type { Brief } from '../brief/schema';
import { errorFacts } from '../errors';
import { either } from '../tradeNames';
import { plainIcon } from './icon/check';
import { drawnIcon } from './icon/draw';
import type { PackEntry, PartInput } from './input';
import type { PackSettings } from './settings';
import { wrong, type PartTrouble } from './troubles';

const MOST_TITLE = 200;

/** The title as it was given; the project’s name where none was. */
export function titleOf({ settings, project }: Pick<PartInput, 'settings' | 'project'>): string {
  return (settings.title ?? project).trim();
}

/** The layout's fields as they are set, or as they usually are. */
export function fieldValues({ layout }: Pick<Brief, 'layout'>, { fields = {} }: PackSettings) {
  return Object.fromEntries(
    (layout?.fields ?? []).map(({ id, value }) => [
      id,
      Object.hasOwn(fields, id) ? fields[id]! : value,
    ]),
  );
}

/** What is wrong with the title and the fields. */
export function fieldTroubles(input: PartInput): PartTrouble[] {
  const { longestTitle = MOST_TITLE, fields = [] } = input.brief.layout ?? {};
  const title = titleOf(input);
  const values = fieldValues(input.brief, input.settings);
  const say = (message: string, hint: string) => wrong('field', message, hint);
  return [
    ...(title === '' ? [say('The pack has no title.', 'Give it one.')] : []),
    ...([...title].length > longestTitle
      ? [say(`The title is longer than ${longestTitle} characters.`, 'Shorten it.')]
      : []),
    ...(/\p{Cc}/u.test(title)
      ? [say('The title has characters that cannot be seen.', 'Type it anew.')]
      : []),
    ...fields.flatMap((field) => {
      const problem = fieldProblem(field, values[field.id]!);
      return problem ? [say(...problem)] : [];
    }),
  ];
}

function fieldProblem(
  { title, value: usual, oneOf, longest = 1_000 }: LayoutField,
  value: string | number,
): [message: string, hint: string] | null {
  if (typeof value !== typeof usual) {
    const wanted = typeof usual === 'number' ? 'a number' : 'a text';
    return [`${title} is not ${wanted}.`, `Write ${wanted}, such as ${usual}.`];
  }
  if (oneOf && !oneOf.includes(value)) {
    return [`${title} cannot be ${JSON.stringify(value)}.`, `Choose ${either(oneOf.map(String))}.`];
  }
  if ([...String(value)].length > longest) {
    return [`${title} is longer than ${longest} characters.`, 'Shorten it.'];
  }
  return null;
}

/** The icon: the one that was given, or one that is drawn of the title. */
export function iconOf(input: PartInput): { entry: PackEntry | null; troubles: PartTrouble[] } {
  const { brief, settings } = input;
  const { icon } = brief.layout ?? {};
  if (!icon) return { entry: null, troubles: [] };
  const { path, sizes } = icon;
  const content = settings.icon ? input.icon : drawnIcon(titleOf(input), sizes[0]!);
  const entry = (bytes: Uint8Array): PackEntry => ({
    path,
    kind: 'icon',
    briefId: brief.id,
    bytes: bytes.length,
    sha256: null,
    content: bytes,
    soundId: null,
  });
  if (!content) {
    const trouble = wrong('icon', 'The icon is not there any more.', 'Give it again.', { path });
    return { entry: null, troubles: [trouble] };
  }
  try {
    return { entry: entry(plainIcon(content, sizes)), troubles: [] };
  } catch (error) {
    const { message, hint } = errorFacts(error);
    return { entry: entry(content), troubles: [wrong('icon', message, hint, { path })] };
  }
}
