import type { Sound } from '@/wire';
import { currentVersion, play, position, switchTo, useListening } from '../strip/listening';
import { useDesk, type Span } from './desk';

/** Hearing what the picture shows. The versions of the sound are in the strip already. */

/** Key of the version that the picture shows. */
function shownKey(sound: Sound): string {
  const { shown } = useDesk.getState();
  const key = `${shown}-${sound.id}`;
  const isThere = useListening.getState().versions.some((version) => version.key === key);
  return isThere ? key : `source-${sound.id}`;
}

/** Frame of the picture that is heard, in whatever version; null when another sound is in the strip. */
export function shownFrame(sound: Sound): number | null {
  const state = useListening.getState();
  const version = currentVersion(state);
  if (!version || state.versions[0]?.key !== `source-${sound.id}`) return null;
  const key = shownKey(sound);
  const shown = version.key === key ? version : state.versions.find((other) => other.key === key);
  if (!shown) return null;
  const at = shown === version ? position() : shown.fromSource(version.toSource(position()));
  return Math.round(shown.toPicture?.(at) ?? at);
}

/** Goes to a frame of the picture; what is playing goes on from there. */
export function seek(sound: Sound, pictured: number): void {
  const key = shownKey(sound);
  const shown = useListening.getState().versions.find((version) => version.key === key);
  const frame = shown?.fromPicture?.(pictured) ?? pictured;
  switchTo(key);
  if (useListening.getState().playing) play({ frame, range: null });
  else useListening.setState({ current: key, range: null, frame });
}

/** Plays a stretch of the picture, once or around, as the strip is set. */
export function playSpan(sound: Sound, span: Span): void {
  useListening.setState({ current: shownKey(sound) });
  play({ frame: span.start, range: span });
}

/** What is heard on both sides of an edge. */
const AROUND_SECONDS = 2;

/** Plays the two seconds before and behind an edge. */
export function playAround(sound: Sound, frame: number, frames: number, rateHz: number): void {
  const reach = AROUND_SECONDS * rateHz;
  playSpan(sound, { start: Math.max(0, frame - reach), end: Math.min(frames, frame + reach) });
}
