import { formatTime } from '../../time';
import { plainNumber } from '../../tradeNames';
import {
  acts,
  MOST_FADE_SECONDS,
  MOST_HINT_LETTERS,
  MOST_HINT_SECONDS,
  MOST_LEVEL,
  triggerIds,
  triggers,
  untouched,
  usualHint,
  type Act,
  type Hint,
  type SoundChoice,
  type StageChoices,
  type Trigger,
} from './choices';

/** Where a pack for the stage has the list of what to set in the host. */
export const SETTINGS_PATH = 'settings.txt';
/** Two lines stand in front of the first sound. */
const HEAD_LINES = 2;
const HINT = 'Hint on the screen';

interface ListedSound {
  path: string;
  seconds: number;
}

/** The list of what to set in the host, for people; the stage reads it too. */
export function settingsText(
  title: string,
  sounds: readonly ListedSound[],
  { sounds: choices, hint }: StageChoices,
): string {
  const blocks = sounds.map(({ path, seconds }) => {
    const choice = choices[path] ?? untouched;
    const lines = [
      ['length', formatTime(seconds)],
      ...sentences(choice),
      ['fade', `${plainNumber(choice.fade, 2)} s`],
      ['loop', choice.isLoop ? 'on' : 'off'],
      ['level', String(choice.level)],
    ];
    return [path, ...lines.map(([name, value]) => `  ${name}: ${value}`), ''].join('\n');
  });
  return [
    `${title}: what to set in the host`,
    'The host begins muted: nothing is heard before the first tap.',
    '',
    ...blocks,
    HINT,
    `  text: ${hint.text.replace(/\s+/g, ' ').trim()}`,
    `  comes after: ${plainNumber(hint.from, 2)} s`,
    `  stays for: ${plainNumber(hint.seconds, 2)} s`,
    '',
  ].join('\n');
}

function sentences({ acts: chosen }: SoundChoice): [string, string][] {
  const said = triggerIds.flatMap((id): [string, string][] =>
    chosen[id] === 'nothing' ? [] : [[triggers[id], acts[chosen[id]]]],
  );
  return said.length > 0 ? said : [['starts', 'by nothing yet']];
}

const byTriggerText = new Map<string, Trigger>(triggerIds.map((id) => [triggers[id], id]));
const byActText = new Map<string, Act>((Object.keys(acts) as Act[]).map((id) => [acts[id], id]));

/**
 * Reads such a list, as it was written or as people have changed it: what cannot be understood is said, and the usual
 * taken in its place.
 */
export function readSettings(text: string): { choices: StageChoices; problems: string[] } {
  const sounds = new Map<string, SoundChoice>();
  const hint: Hint = { ...usualHint };
  const problems: string[] = [];
  let take: (name: string, value: string) => boolean = () => true;
  text.split(/\r?\n/).forEach((line, i) => {
    const field = fieldIn(line);
    if (field) {
      if (take(field.name, field.value)) return;
      problems.push(`line ${i + 1} is not understood: ${line.trim().slice(0, 80)}`);
    } else if (line.trim() === HINT) {
      take = (name, value) => readHint(hint, name, value);
    } else if (line.trim() !== '' && i >= HEAD_LINES) {
      const path = line.trim();
      sounds.set(path, sounds.get(path) ?? untouched);
      take = (name, value) => readChoice(sounds, path, name, value);
    }
  });
  return { choices: { sounds: Object.fromEntries(sounds), hint }, problems };
}

/** A line that is indented and has a colon behind its first word. */
function fieldIn(line: string): { name: string; value: string } | null {
  const colon = line.indexOf(':');
  const name = line.slice(0, colon).trim();
  if (colon < 0 || name === '' || !/^\s/.test(line)) return null;
  return { name, value: line.slice(colon + 1).trim() };
}

function readHint(hint: Hint, name: string, value: string): boolean {
  if (name === 'text') {
    hint.text = [...value].slice(0, MOST_HINT_LETTERS).join('');
    return [...value].length <= MOST_HINT_LETTERS;
  }
  const seconds = numberIn(value, MOST_HINT_SECONDS);
  if (seconds === null) return false;
  if (name === 'comes after') hint.from = seconds;
  else if (name === 'stays for') hint.seconds = seconds;
  else return false;
  return true;
}

function readChoice(
  sounds: Map<string, SoundChoice>,
  path: string,
  name: string,
  value: string,
): boolean {
  const choice = sounds.get(path)!;
  const trigger = byTriggerText.get(name);
  const act = byActText.get(value);
  if (trigger) {
    if (act) sounds.set(path, { ...choice, acts: { ...choice.acts, [trigger]: act } });
    return act !== undefined;
  }
  switch (name) {
    case 'length':
    case 'starts':
      return true;
    case 'loop':
      sounds.set(path, { ...choice, isLoop: value === 'on' });
      return value === 'on' || value === 'off';
    case 'fade':
    case 'level': {
      const number = numberIn(value, name === 'fade' ? MOST_FADE_SECONDS : MOST_LEVEL);
      if (number !== null) sounds.set(path, { ...choice, [name]: number });
      return number !== null;
    }
    default:
      return false;
  }
}

/** A number from 0 to `most`, with or without its unit of seconds. */
function numberIn(text: string, most: number): number | null {
  const found = /^(\d{1,4}(?:\.\d{1,6})?)(?: s)?$/.exec(text);
  const value = found ? Number(found[1]) : NaN;
  return value >= 0 && value <= most ? value : null;
}
