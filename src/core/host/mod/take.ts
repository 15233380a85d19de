import { isMeantAsSound } from '../../formats/open';
import type { Call, PathVariant } from '../../pack/calls/calls';
import { checkIcon, MOST_ICON_BYTES } from '../../pack/icon/check';
import { namingProblem } from '../../pack/paths';
import { either } from '../../tradeNames';
import { objectionOf, type Checking } from '../checks';
import { checkedFiles } from '../everyPack';
import type { OpenSound, Taken } from '../kind';
import type { FoundFile, FoundPack } from '../pack';
import { takenSound } from '../sounds';
import { bytesOf, readText } from '../text';
import { readCalls } from './calls';
import { descriptorIn, readDescriptor, type Descriptor } from './descriptor';
import { islandPlaces } from './places';
import { demands, DESCRIPTOR, iconSizes, spelling } from './rules';
import type { ModScene } from './scene';

/** Takes a pack in: what it says of itself, its calls, its sounds, and the music of the places. */
export async function takeMod(
  pack: FoundPack,
  checking: Checking,
): Promise<Taken<ModScene> | null> {
  const first = descriptorIn(pack, checking);
  const files = first && checkedFiles(pack, checking);
  // Without it nothing else can be told right from wrong.
  if (!first || !files) return null;
  const descriptor = await readDescriptor(first, checking);
  for (const { path } of files) checkSpelling(path, checking);
  const icon = descriptor && (await takenIcon(files, descriptor, checking));
  const calls = descriptor ? await takenCalls(files, descriptor, checking) : [];
  const sounds = await takenFiles(files, descriptor, checking);
  checkPlaces(files, checking);
  if (calls.length > 0) warnOfUnused(sounds, calls, checking);
  const { title = '', author = '', edition = 0 } = descriptor ?? {};
  return { sounds, scene: { title, author, edition, icon, calls } };
}

function checkSpelling(path: string, checking: Checking): void {
  const asked = 'small letters, digits, _ and - in names';
  const problem = namingProblem(path, spelling);
  if (problem === null) return;
  const found = problem.replace(/\.$/, '');
  const cure = 'Rename it, and wherever it is named; or build it for this host.';
  checking.refuse(path, { rule: 'name', asked, found, cure });
}

async function takenIcon(
  files: readonly FoundFile[],
  { icon: path }: Descriptor,
  checking: Checking,
): Promise<Uint8Array | null> {
  const asked = `a square PNG of ${either(iconSizes.map(String))} pixels`;
  const file = files.find((one) => one.path === path);
  if (!file) {
    const found = `${path}, which is not there`;
    const cure = 'Put it in, or let Bijou draw one.';
    checking.refuse(DESCRIPTOR, { rule: 'icon', asked, found, cure });
    return null;
  }
  try {
    const bytes = await bytesOf(file, MOST_ICON_BYTES);
    const size = checkIcon(bytes, iconSizes);
    checking.met(path, 'icon', asked, `${size} × ${size} pixels`);
    return bytes;
  } catch (error) {
    checking.refuse(path, objectionOf(error, 'icon', asked));
    return null;
  }
}

async function takenCalls(
  files: readonly FoundFile[],
  { calls: path }: Descriptor,
  checking: Checking,
): Promise<Call<PathVariant>[]> {
  const file = files.find((one) => one.path === path);
  if (file) return readCalls(file, new Set(files.map((one) => one.path)), checking);
  checking.refuse(DESCRIPTOR, {
    rule: 'calls',
    asked: 'an index of calls',
    found: `${path}, which is not there`,
    cure: 'Make one of the sounds’ names.',
  });
  return [];
}

/** Takes the sounds in, and looks at everything else: texts have to be readable, the rest is left alone. */
async function takenFiles(
  files: readonly FoundFile[],
  descriptor: Descriptor | null,
  checking: Checking,
): Promise<OpenSound[]> {
  const known = new Set([DESCRIPTOR, descriptor?.icon, descriptor?.calls]);
  const sounds: OpenSound[] = [];
  for (const file of files) {
    const { path } = file;
    if (known.has(path)) continue;
    if (isMeantAsSound(new Uint8Array(), path)) {
      const sound = await takenSound(file, demands, checking);
      if (sound) sounds.push(sound);
    } else if (/\.(txt|json|md)$/.test(path)) {
      await readText(file, checking);
    } else if (descriptor) {
      const fault = { rule: 'unused', asked: 'files that the island knows', found: 'another one' };
      checking.warn(path, { ...fault, cure: 'Leave it out: the island does not look at it.' });
    }
  }
  return sounds;
}

function checkPlaces(files: readonly FoundFile[], checking: Checking): void {
  const there = new Set(files.map(({ path }) => path));
  for (const { title, file, isOptional } of islandPlaces) {
    const asked = `music for ${title}`;
    if (there.has(file)) checking.met(file, 'slot', asked, 'there');
    else if (!isOptional) {
      const cure = 'Give a sound to that slot.';
      checking.refuse(file, { rule: 'slot', asked, found: 'nothing', cure });
    }
  }
}

function warnOfUnused(
  sounds: readonly OpenSound[],
  calls: readonly Call<PathVariant>[],
  checking: Checking,
): void {
  const used = new Set([
    ...islandPlaces.map(({ file }) => file),
    ...calls.flatMap(({ variants }) => variants.map(({ path }) => path)),
  ]);
  for (const {
    sound: { file },
  } of sounds) {
    if (used.has(file)) continue;
    const fault = { rule: 'unused', asked: 'a call or a place for it', found: 'nothing plays it' };
    checking.warn(file, { ...fault, cure: 'Give it a call, or leave it out.' });
  }
}
