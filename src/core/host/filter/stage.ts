import type { SoundChoice, StageChoices, Trigger } from './choices';

/** A sound as far as the stage has to know it. */
export interface StagedSound {
  file: string;
  seconds: number;
}

/** Something that happens, so many seconds after the filter was opened. */
export interface StageEvent {
  trigger: Trigger;
  at: number;
}

/** What is to be done with a sound, at a time. */
export interface StageOrder {
  file: string;
  at: number;
  does: 'start' | 'startOver' | 'stop';
}

/** How the stage is: which sounds run, and whether the person has tapped yet. */
export interface StageState {
  /** When each sound that runs has begun; others are silent. */
  running: Readonly<Record<string, number>>;
  /** When the first tap came: nothing is heard before it. */
  heardFrom: number | null;
}

export const silentStage: StageState = { running: {}, heardFrom: null };

/** Whether a sound runs at a time, by when it begun and how it is set. */
export function isRunning(
  { running }: StageState,
  { file, seconds }: StagedSound,
  { isLoop }: SoundChoice,
  at: number,
): boolean {
  const begun = Object.hasOwn(running, file) ? running[file] : undefined;
  return begun !== undefined && (isLoop || at < begun + seconds);
}

/** What a trigger does to every sound, by what was chosen for it. Opening the filter begins everything anew. */
export function triggered(
  before: StageState,
  sounds: readonly StagedSound[],
  { sounds: choices }: Pick<StageChoices, 'sounds'>,
  { trigger, at }: StageEvent,
): { state: StageState; orders: StageOrder[] } {
  const isOpening = trigger === 'opened';
  const orders: StageOrder[] = [];
  const running: Record<string, number> = {};
  for (const sound of sounds) {
    const { file } = sound;
    const choice = choices[file];
    if (!choice) continue;
    const runs = isRunning(before, sound, choice, at);
    const does = orderFor(choice.acts[trigger], runs && !isOpening);
    if (does === null && runs && !isOpening) running[file] = before.running[file]!;
    if (does === 'start' || does === 'startOver') running[file] = at;
    if (does) orders.push({ file, at, does });
    else if (isOpening && runs) orders.push({ file, at, does: 'stop' });
  }
  const tapped = trigger === 'tap' ? (before.heardFrom ?? at) : before.heardFrom;
  return { state: { running, heardFrom: isOpening ? null : tapped }, orders };
}

function orderFor(act: SoundChoice['acts'][Trigger], runs: boolean): StageOrder['does'] | null {
  switch (act) {
    case 'nothing':
      return null;
    case 'stop':
      return runs ? 'stop' : null;
    case 'startOnce':
      return runs ? null : 'start';
    case 'startOrStop':
      return runs ? 'stop' : 'start';
    case 'startOver':
      return runs ? 'startOver' : 'start';
  }
}

/** A stretch in which a sound runs, in seconds; heard only from the first tap on. */
export interface Stretch {
  file: string;
  from: number;
  to: number;
}

/** What comes of events in their order: when each sound runs, up to an end. */
export function performed(
  sounds: readonly StagedSound[],
  choices: Pick<StageChoices, 'sounds'>,
  events: readonly StageEvent[],
  end: number,
): { stretches: Stretch[]; heardFrom: number | null } {
  const open = new Map<string, number>();
  const stretches: Stretch[] = [];
  const close = (sound: StagedSound, at: number) => {
    const from = open.get(sound.file);
    if (from === undefined) return;
    const isLoop = choices.sounds[sound.file]?.isLoop ?? false;
    const to = Math.min(at, isLoop ? Infinity : from + sound.seconds, end);
    if (to > from) stretches.push({ file: sound.file, from, to });
    open.delete(sound.file);
  };
  let state = silentStage;
  const bySound = new Map(sounds.map((sound) => [sound.file, sound]));
  for (const event of [...events].sort((a, b) => a.at - b.at)) {
    if (event.at > end) break;
    const next = triggered(state, sounds, choices, event);
    for (const { file, at, does } of next.orders) {
      close(bySound.get(file)!, at);
      if (does !== 'stop') open.set(file, at);
    }
    state = next.state;
  }
  for (const sound of sounds) close(sound, end);
  return { stretches, heardFrom: state.heardFrom };
}
