/** What happens to a filter, in the order in which people meet it. */
export const triggers = {
  opened: 'the filter is opened',
  tap: 'a tap',
  mouth: 'the mouth opens',
  blink: 'a blink',
  hand: 'a hand is seen',
} as const;
export type Trigger = keyof typeof triggers;
export const triggerIds = Object.keys(triggers) as Trigger[];

/** What a trigger does to a sound; each ends a sentence that its trigger begins. */
export const acts = {
  nothing: 'does nothing to it',
  startOrStop: 'starts or stops it',
  startOver: 'starts it over',
  startOnce: 'starts it, and leaves it alone while it sounds',
  stop: 'stops it',
} as const;
export type Act = keyof typeof acts;

/** What is set for one sound in the host. */
export interface SoundChoice {
  acts: Record<Trigger, Act>;
  /** In seconds: so long it takes to come up, and to go when something stops it. */
  fade: number;
  isLoop: boolean;
  /** From 0 to 100, in hundredths of the file's own level. */
  level: number;
}

/** A line on the screen: its text, when it comes after the filter was opened, and how long it stays, in seconds. */
export interface Hint {
  text: string;
  from: number;
  seconds: number;
}

/** Everything that is set in the host: sounds by their paths, and the hint. */
export interface StageChoices {
  sounds: Readonly<Record<string, SoundChoice>>;
  hint: Hint;
}

export const MOST_FADE_SECONDS = 10;
export const MOST_LEVEL = 100;
export const MOST_HINT_LETTERS = 40;
export const MOST_HINT_SECONDS = 60;

export const usualHint: Hint = { text: 'Tap to hear', from: 0.5, seconds: 4 };

const nothing = Object.fromEntries(triggerIds.map((id) => [id, 'nothing'])) as SoundChoice['acts'];

/** A sound as it is before anybody has set anything: nothing starts it. */
export const untouched: SoundChoice = { acts: nothing, fade: 0, isLoop: false, level: 100 };

/** How a host begins with sounds of which nobody has said anything: the first one listens to taps. */
export function usualChoice(place: number, { loop }: { loop: unknown }, level = 100): SoundChoice {
  const own = place === 0 ? { ...nothing, tap: 'startOrStop' as const } : nothing;
  return { ...untouched, acts: own, isLoop: Boolean(loop), level };
}
