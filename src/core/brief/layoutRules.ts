import { hostById } from '../host';
import { allowedCharacters } from '../pack/characters';
import { manifestKind } from '../pack/manifests';
import { meetings, namingProblem, pathProblem } from '../pack/paths';
import { fileOfSlot } from '../pack/slots';
import { templateNames } from '../pack/texts/names';
import { templateProblems } from '../pack/texts/template';
import { either } from '../tradeNames';
import type { Layout, LayoutText } from './layout';
import { at, wrong } from './problems';
import type { Brief } from './schema';

/** Says what of a layout contradicts itself, or leads nowhere. @throws bad-setting, with what would do. */
export function refuseLayout(brief: Brief): void {
  const { layout, host } = brief;
  if (host !== undefined) at('host', () => hostById(host));
  if (!layout) return;
  refusePath(layout.inFolder, 'layout.inFolder');
  refuseSlots(brief, layout);
  refuseFields(layout);
  refusePath(layout.icon?.path, 'layout.icon.path');
  (layout.texts ?? []).forEach((text, i) => refuseText(text, `layout.texts[${i}]`));
  const { characters } = layout.calls ?? {};
  if (characters !== undefined) {
    at('layout.calls.characters', () => allowedCharacters(characters));
  }
  refuseMeetings(brief, layout);
}

function refusePath(path: string | undefined, field: string): void {
  const problem = path === undefined ? null : pathProblem(path);
  if (problem)
    throw wrong(field, `"${path}": ${problem}`, 'Write a path such as "sounds/door.ogg".');
}

function refuseSlots(brief: Brief, { slots = [], others }: Layout): void {
  if (others === 'refuse' && slots.length === 0) {
    throw wrong(
      'layout.others',
      'it refuses what has no slot, and has no slots.',
      'Give it slots.',
    );
  }
  slots.forEach(({ path }, i) => {
    const field = `layout.slots[${i}].path`;
    refusePath(path, field);
    if (!fileOfSlot(brief, path)) {
      const endings = brief.files.map(({ extension }) => `.${extension}`);
      throw wrong(
        field,
        `no file of the brief ends as "${path}" does.`,
        `End it with ${either(endings)}.`,
      );
    }
    const problem = namingProblem(path, brief.names);
    if (problem) throw wrong(field, problem, 'Spell it as the brief’s own names have to be.');
  });
}

function refuseFields({ fields = [] }: Layout): void {
  fields.forEach(({ id, value, oneOf }, i) => {
    const field = `layout.fields[${i}]`;
    if (Object.hasOwn(templateNames, id) || fields.findIndex((one) => one.id === id) < i) {
      throw wrong(
        `${field}.id`,
        `"${id}" stands for something else already.`,
        'Choose another name.',
      );
    }
    if (oneOf && !oneOf.includes(value)) {
      throw wrong(
        `${field}.value`,
        `${value} is none of its own values.`,
        `Take ${either(oneOf.map(String))}.`,
      );
    }
  });
}

function refuseText(
  { path, manifest, options = {}, template, is }: LayoutText,
  field: string,
): void {
  refusePath(path, `${field}.path`);
  if ((manifest === undefined) === (template === undefined)) {
    throw wrong(
      field,
      'it needs a manifest or a template, and not both.',
      'Leave one of them out.',
    );
  }
  if (manifest !== undefined) {
    const { options: schema } = at(`${field}.manifest`, () => manifestKind(manifest));
    at(`${field}.options`, () => schema?.validateSync(options, { strict: true }));
    return;
  }
  if (is === undefined) {
    throw wrong(`${field}.is`, 'nobody says what its template makes.', 'Say, for example, "json".');
  }
  const [problem] = templateProblems(template!);
  if (!problem) return;
  const { line, column, message } = problem;
  throw wrong(
    `${field}.template`,
    `line ${line}, column ${column}: ${message}.`,
    'Correct the template.',
  );
}

function refuseMeetings({ id: briefId }: Brief, { slots = [], icon, texts = [] }: Layout): void {
  const paths = [...slots, ...(icon ? [icon] : []), ...texts].map(({ path }) => ({
    path,
    briefId,
  }));
  const [meeting] = meetings(paths);
  if (meeting) throw wrong('layout', meeting.message, 'Give one of them another place.');
}
