import type { SoundChoice, Trigger } from './choices';
import { isRunning, silentStage, triggered, type StagedSound } from './stage';

/** What will be heard of a sound when something happens, in words. */
export interface Foretold {
  event: 'opened' | 'first tap' | 'second tap' | 'third tap';
  text: string;
}

const steps: readonly [Foretold['event'], Trigger][] = [
  ['opened', 'opened'],
  ['first tap', 'tap'],
  ['second tap', 'tap'],
  ['third tap', 'tap'],
];

/**
 * What opening the filter and three taps in a row do to a sound, each while it would still sound: so that the second
 * tap surprises nobody.
 */
export function foretold(sound: StagedSound, choice: SoundChoice): Foretold[] {
  const choices = { sounds: { [sound.file]: choice } };
  // A breath apart, so that even a short sound still runs.
  const apart = Math.min(0.01, sound.seconds / 10);
  let state = silentStage;
  return steps.map(([event, trigger], i) => {
    const at = i * apart;
    const ran = isRunning(state, sound, choice, at);
    const wasMuted = state.heardFrom === null;
    const { state: next, orders } = triggered(state, [sound], choices, { trigger, at });
    state = next;
    return { event, text: said(orders[0]?.does ?? null, ran, wasMuted, trigger) };
  });
}

function said(
  does: 'start' | 'startOver' | 'stop' | null,
  ran: boolean,
  wasMuted: boolean,
  trigger: Trigger,
): string {
  const isMuted = wasMuted && trigger !== 'tap';
  if (does === 'start') return isMuted ? 'begins, but nobody hears it yet' : 'begins';
  if (does === 'startOver') return 'begins again from its start';
  if (does === 'stop') return wasMuted ? 'stops before anybody has heard it' : 'stops';
  if (!ran) return 'stays silent';
  if (isMuted) return 'runs on unheard';
  return wasMuted ? 'is heard, from where it has come to' : 'goes on';
}
