import { writers } from '../formats';
import { filledSettings, writerById } from '../formats/write';
import type { WriterKind } from '../formats/types';
import { allowedCharacters } from '../pack/characters';
import { cleaned } from '../pack/naming';
import { checkPattern, hasToken } from '../pack/pattern';
import { count, either } from '../tradeNames';
import { plural } from '../words';
import { accepts, isSpan } from './accepted';
import { refuseLayout } from './layoutRules';
import { at, wrong } from './problems';
import type { Brief, BriefFile } from './schema';

/** Says what of a brief contradicts itself or its codecs. @throws bad-setting, with what would do. */
export function refuseContradictions(brief: Brief): void {
  refuseTwins(brief);
  refuseLimits(brief);
  refuseLevel(brief);
  refuseNames(brief);
  refuseLayout(brief);
  brief.files.forEach((file, i) => {
    const path = `files[${i}]`;
    refuseBitRate(file, path);
    refuseLoop(brief, file, path);
    refuseTags(brief, file);
    refuseSize(brief, file);
  });
}

function refuseTwins({ files }: Brief): void {
  const ids = files.map(({ id }) => id);
  const at = ids.findIndex((id, i) => ids.indexOf(id) < i);
  if (at < 0) return;
  throw wrong(`files[${at}].id`, `two of its files are called "${ids[at]}".`, 'Name each once.');
}

function refuseLimits({ leastSeconds = 0, mostSeconds = Infinity, ...brief }: Brief): void {
  if (leastSeconds > mostSeconds) {
    throw wrong(
      'leastSeconds',
      `no sound is at least ${leastSeconds} s and at most ${mostSeconds} s long.`,
      `Ask for at most ${mostSeconds} s there.`,
    );
  }
  const { mostBytes = 0, mostTotalBytes = Infinity } = brief;
  if (mostBytes > mostTotalBytes) {
    throw wrong(
      'mostBytes',
      `one file may have more bytes (${count(mostBytes)}) than all together (${count(mostTotalBytes)}).`,
      `Allow a file at most ${count(mostTotalBytes)} bytes.`,
    );
  }
}

function refuseLevel({ level }: Brief): void {
  if (!level) return;
  if (level.by !== undefined && level.peakDbtp === undefined) {
    throw wrong(
      'level.by',
      'it says how peaks are turned down, and not to what.',
      'Give level.peakDbtp.',
    );
  }
  if (level.toleranceLu !== undefined && level.lufs === undefined) {
    throw wrong(
      'level.toleranceLu',
      'it tolerates differences from a loudness that it does not name.',
      'Give level.lufs.',
    );
  }
}

function refuseNames({ names = {}, folder, languages }: Brief): void {
  const { pattern = '{name}', characters, joiner } = names;
  at('names.pattern', () => checkPattern(pattern));
  at('folder', () => checkPattern(folder ?? ''));
  if (characters !== undefined) {
    const isAllowed = at('names.characters', () => allowedCharacters(characters));
    if (joiner !== undefined && joiner !== '' && !isAllowed(joiner)) {
      throw wrong(
        'names.joiner',
        `"${joiner}" is none of the characters that it allows.`,
        `Take one of ${characters}.`,
      );
    }
    // Whatever a sound is called, something of it has to be left.
    if (cleaned('sound', names) === '') {
      const cased = names.case ? ` in ${names.case} case` : '';
      throw wrong(
        'names.characters',
        `no letter${cased} may be in its names.`,
        `Allow ${names.case === 'upper' ? 'A-Z' : 'a-z'}.`,
      );
    }
  }
  const isTold = hasToken(pattern, 'language') || hasToken(folder, 'language');
  if (languages && !isTold) {
    throw wrong(
      'languages',
      'the same line in two languages would have one name.',
      'Put {language} into the folder or the name.',
    );
  }
}

/** Whether a writer with these settings keeps one bit rate all the time. */
export function keepsBitRate(writer: WriterKind, settings: object): boolean {
  return writer.soundBytes?.(1_000, filledSettings(writer, settings), 44_100, 1) != null;
}

function refuseBitRate(file: BriefFile, path: string): void {
  const writer = writerById(file.writer);
  const isConstant = keepsBitRate(writer, file.settings);
  if (file.isConstant !== undefined && file.isConstant !== isConstant) {
    const [asked, made] = file.isConstant ? ['constant', 'variable'] : ['variable', 'constant'];
    throw wrong(
      `${path}.isConstant`,
      `it asks for a ${asked} bit rate, and ${writer.name} with these settings has a ${made} one.`,
      wayTo(writer, file.isConstant),
    );
  }
  const { kbps } = file.settings as { kbps?: unknown };
  const { bitRatesKbps } = file;
  if (typeof kbps !== 'number' || accepts(bitRatesKbps, kbps)) return;
  const legal = isSpan(bitRatesKbps!)
    ? `${bitRatesKbps.from} to ${bitRatesKbps.to}`
    : either(bitRatesKbps!.map(String));
  throw wrong(
    `${path}.settings`,
    `it is made with ${kbps} kbit/s, and ${legal} kbit/s are asked for.`,
    `Make it with ${legal} kbit/s.`,
  );
}

/** How this writer gets there, or which others do. */
function wayTo(writer: WriterKind, isConstant: boolean): string {
  const dial = writer.dials.find(
    ({ name, usual }) => name !== 'level' && keepsBitRate(writer, { [name]: usual }) === isConstant,
  );
  if (dial) return `Set ${dial.name}, for example ${dial.usual}.`;
  return `Take ${either(namesOf((one) => keepsBitRate(one, {}) === isConstant))}.`;
}

function refuseLoop({ loop }: Brief, file: BriefFile, path: string): void {
  if (!loop) return;
  if (loop.marked === 'forbidden' && (loop.isNeeded || loop.leastSeamScore !== undefined)) {
    throw wrong(
      'loop.marked',
      'it forbids loops, and asks something of them.',
      'Leave loop.isNeeded and loop.leastSeamScore out.',
    );
  }
  const writer = writerById(file.writer);
  if (loop.marked === 'file' && !writer.carries.loop) {
    throw wrong(
      `${path}.writer`,
      `${writer.name} has no place for loop points, which it wants in the file.`,
      `Take ${either(namesOf(({ carries }) => carries.loop))}, or have them in the manifest.`,
    );
  }
}

function refuseTags({ tags }: Brief, file: BriefFile): void {
  const writer = writerById(file.writer);
  const isSet = Object.keys(tags?.set ?? {}).length > 0;
  if (isSet && !writer.carries.tags) {
    throw wrong(
      'tags.set',
      `${writer.name} has no place for tags.`,
      `Take ${either(namesOf(({ carries }) => carries.tags))}.`,
    );
  }
  for (const [name, pattern] of Object.entries(tags?.set ?? {})) {
    at(`tags.set.${name}`, () => checkPattern(pattern ?? ''));
  }
}

/** Where the length alone decides the bytes, the shortest sound has to fit. */
function refuseSize({ leastSeconds, mostBytes }: Brief, file: BriefFile): void {
  if (leastSeconds === undefined || mostBytes === undefined) return;
  const { sampleRatesHz: rates } = file;
  if (!rates) return;
  const rateHz = isSpan(rates) ? rates.from : Math.min(...rates);
  const writer = writerById(file.writer);
  const settings = filledSettings(writer, file.settings);
  const frames = Math.ceil(leastSeconds * rateHz);
  const channels = Math.min(...(file.channels ?? [1]));
  const bytes = writer.soundBytes?.(frames, settings, rateHz, channels);
  if (bytes == null || bytes <= mostBytes) return;
  throw wrong(
    'mostBytes',
    `its shortest sound already comes to ${plural(bytes, 'byte')}.`,
    `Allow at least ${plural(bytes, 'byte')}, or shorter sounds.`,
  );
}

function namesOf(does: (writer: WriterKind) => boolean): string[] {
  return writers
    .filter(({ id }) => id !== 'raw' && id !== 'c')
    .filter(does)
    .map(({ name }) => name);
}
