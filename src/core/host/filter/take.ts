import { isMeantAsSound } from '../../formats/open';
import type { Checking } from '../checks';
import { checkedFiles } from '../everyPack';
import type { OpenSound, Taken } from '../kind';
import type { FoundFile, FoundPack } from '../pack';
import { takenSound } from '../sounds';
import { readText } from '../text';
import { usualChoice, usualHint, type StageChoices } from './choices';
import { demands } from './rules';
import type { FilterScene } from './scene';
import { readSettings, SETTINGS_PATH } from './settings';

/** Takes a pack in: every sound that the stage plays, and what the pack says is to be set. */
export async function takeFilter(
  pack: FoundPack,
  checking: Checking,
): Promise<Taken<FilterScene> | null> {
  const files = checkedFiles(pack, checking);
  if (!files) return null;
  const sounds = await takenSounds(pack, files, checking);
  const choices = await choicesOf(files, sounds, checking);
  return { sounds, scene: { choices } };
}

async function takenSounds(
  { name }: FoundPack,
  files: readonly FoundFile[],
  checking: Checking,
): Promise<OpenSound[]> {
  const sounds: OpenSound[] = [];
  let tried = 0;
  for (const file of files) {
    if (file.path === SETTINGS_PATH) continue;
    if (!(await isSound(file))) {
      const fault = { rule: 'others', asked: 'sounds alone', found: 'no sound' };
      checking.warn(file.path, { ...fault, cure: 'Leave it out: the host does not look at it.' });
      continue;
    }
    tried++;
    const sound = await takenSound(file, demands, checking);
    if (sound) sounds.push(sound);
  }
  if (tried === 0) {
    const fault = { rule: 'sounds', asked: 'at least one sound', found: 'none' };
    checking.refuse(name, { ...fault, cure: 'Put the finished sounds into it.' });
  }
  return sounds;
}

async function isSound(file: FoundFile): Promise<boolean> {
  if (isMeantAsSound(new Uint8Array(), file.path)) return true;
  const source = await file.open().catch(() => null);
  return source !== null && isMeantAsSound(await source.read(0, 8_192), file.path);
}

/** What is set as the pack says it, and as usual where it says nothing. */
async function choicesOf(
  files: readonly FoundFile[],
  sounds: readonly OpenSound[],
  checking: Checking,
): Promise<StageChoices> {
  const list = files.find(({ path }) => path === SETTINGS_PATH);
  const text = list ? await readText(list, checking) : null;
  const usual = Object.fromEntries(
    sounds.map(({ sound }, i) => [sound.file, usualChoice(i, sound)]),
  );
  if (text === null) return { sounds: usual, hint: usualHint };
  const { choices, problems } = readSettings(text);
  const asked = 'what to set, in sentences that the host knows';
  if (problems.length === 0) checking.met(SETTINGS_PATH, 'settings', asked, 'understood');
  else {
    const found = problems.slice(0, 3).join('; ');
    const cure = 'Set it on the stage, and take the list from there.';
    checking.warn(SETTINGS_PATH, { rule: 'settings', asked, found, cure });
  }
  const own = sounds.flatMap(({ sound: { file } }) =>
    Object.hasOwn(choices.sounds, file) ? [[file, choices.sounds[file]!] as const] : [],
  );
  return { sounds: { ...usual, ...Object.fromEntries(own) }, hint: choices.hint };
}
