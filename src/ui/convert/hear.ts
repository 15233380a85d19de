import { shapeAfter } from '@/core/recipe/recipe';
import { emptyRecipe, shapeOf } from '@/core/recipe/types';
import type { OneOffFile, Sound } from '@/wire';
import { cue, play, switchTo, toggle, useListening, type Version } from '../strip/listening';
import { versionsOf } from '../strip/versions';

const keyOf = ({ id }: OneOffFile) => `converted-${id}`;

/** A sound in all forms up to what was converted, which comes last; null until the file is done. */
function versionsWith(sound: Sound, file: OneOffFile, isBare: boolean): Version[] | null {
  const recipe = isBare ? emptyRecipe : sound.recipe;
  const versions = versionsOf(sound, { lines: [], briefs: [], recipe });
  const before = versions.at(-1);
  if (!file.facts || !before || !sound.facts) return null;
  const { facts } = file;
  const scale = facts.frames / shapeAfter(recipe, shapeOf(sound.facts)).frames;
  const converted: Version = {
    key: keyOf(file),
    content: String(file.sha256),
    label: file.name.split('.').at(-1)!.toUpperCase(),
    rateHz: facts.sampleRateHz,
    channels: facts.channels,
    frames: facts.frames,
    loudness: facts.lufs ?? facts.rmsDbfs,
    url: `/api/converted/${file.id}/pcm`,
    toSource: (frame) => before.toSource(frame / scale),
    fromSource: (frame) => before.fromSource(frame) * scale,
  };
  return [...versions, converted];
}

/** Plays a result, or the sound that it was made of, at the same place; stops what is heard already. */
export function hear(sound: Sound, file: OneOffFile, isBare: boolean, isResult: boolean): void {
  const versions = versionsWith(sound, file, isBare);
  if (!versions) return;
  const key = isResult ? keyOf(file) : versions.at(-2)!.key;
  const state = useListening.getState();
  const isThere =
    state.title === sound.name && state.versions.some((one) => one.key === keyOf(file));
  if (!isThere) {
    cue(sound.name, versions, key);
    play({ frame: 0, range: null });
  } else if (state.current === key) toggle();
  else {
    switchTo(key);
    if (!state.playing) play();
  }
}

/** What is heard of a sound and its result right now. */
export function useHeardOf(sound: Sound, file: OneOffFile): 'nothing' | 'sound' | 'result' {
  return useListening(({ playing, current, title }) => {
    if (!playing || title !== sound.name) return 'nothing';
    if (current === keyOf(file)) return 'result';
    return current?.endsWith(`-${sound.id}`) ? 'sound' : 'nothing';
  });
}
