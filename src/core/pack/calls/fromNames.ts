import { groupBy } from '../../group';
import { inCharacters, type Allowed } from '../characters';
import { plainCall, type Call } from './calls';

/** A sound as far as a call of it needs to know it. */
export interface NamedSound {
  id: number;
  name: string;
  group: string;
  seconds: number;
}

/**
 * How calls are made of sounds. variants: those that only a number tells apart are variants of one call · each: every
 * sound is a call · folders: what is in one group are variants of one call.
 */
export const callWays = {
  variants: 'one call with variants',
  each: 'a call for each',
  folders: 'one call for each group',
} as const;
export type CallWay = keyof typeof callWays;

/** "gull 3", "gull_03", "gull-3", "gull (3)", "gull3": what stands in front of the number. */
const NUMBERED = /^(.*?\D)[ _.-]*\(?\d{1,4}\)?$/;

/** Makes calls of sounds by their names and groups, in the order of the sounds. */
export function callsFromNames(
  sounds: readonly NamedSound[],
  way: CallWay,
  isAllowed: Allowed,
): Call[] {
  const id = ({ group }: NamedSound, name: string) =>
    [...group.split('/'), name]
      .map((part) => idPart(part, isAllowed))
      .filter(Boolean)
      .join('/') || 'sound';
  const keys: Record<CallWay, (sound: NamedSound) => string> = {
    each: (sound) => id(sound, sound.name),
    variants: (sound) => id(sound, baseOf(sound.name)),
    folders: (sound) => (sound.group === '' ? id(sound, sound.name) : id(sound, '')),
  };
  const groups = groupBy(sounds, keys[way]);
  const taken = new Set<string>();
  return [...groups].flatMap(([key, members]) => {
    const alone = members.length === 1 && way === 'variants';
    const made =
      way === 'each'
        ? members.map((sound) => [key, [sound]] as const)
        : // A number that tells nothing apart is a part of the name.
          [[alone ? id(members[0]!, members[0]!.name) : key, members] as const];
    return made.map(([wanted, list]) =>
      plainCall(
        freeId(wanted, taken),
        list.map(({ id: soundId }) => ({ soundId, odds: 1 })),
        Math.max(...list.map(({ seconds }) => seconds)),
      ),
    );
  });
}

function baseOf(name: string): string {
  const base = NUMBERED.exec(name)?.[1]?.replace(/[ _.(-]+$/, '');
  return base || name;
}

function idPart(text: string, isAllowed: Allowed): string {
  const lower = text.toLowerCase();
  const cased = isAllowed('a') || !isAllowed('A') ? lower : text.toUpperCase();
  return inCharacters(cased, isAllowed, ['_', '-'].find(isAllowed) ?? '');
}

function freeId(wanted: string, taken: Set<string>): string {
  let free = wanted;
  for (let n = 2; taken.has(free); n++) free = `${wanted}_${n}`;
  taken.add(free);
  return free;
}
