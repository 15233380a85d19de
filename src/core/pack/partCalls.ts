import type { Brief } from '../brief/schema';
import type { Allowed } from './characters';
import type { Call, PathVariant } from './calls/calls';
import { callProblems } from './calls/check';
import { callsFromNames, type NamedSound } from './calls/fromNames';
import { slottedSounds, type PartFile, type PartInput, type PlacedFile } from './input';
import { wrong, type PartTrouble } from './troubles';

/** Whether a brief's pack has an index of calls. */
export function usesCalls({ layout }: Pick<Brief, 'layout'>): boolean {
  const { texts = [], calls } = layout ?? {};
  const inTemplate = texts.some(({ template }) => template?.includes('calls'));
  return calls !== undefined || inTemplate || texts.some(({ manifest }) => manifest === 'calls');
}

/** The sounds that calls are made of, as people look for them: by their groups, then by their names. */
export function namedSounds(files: readonly PlacedFile[]): NamedSound[] {
  const key = ({ group, name }: NamedSound) => `${group}/${name}`.toLowerCase();
  return slottedSounds(files)
    .map(({ soundId: id, ...rest }) => ({ id, ...rest }))
    .sort((a, b) => (key(a) < key(b) ? -1 : 1));
}

/** The calls as names make them. */
export function usualCalls({ brief, files }: PartInput, isId: Allowed): Call[] {
  if (!usesCalls(brief)) return [];
  return callsFromNames(namedSounds(files), brief.layout?.calls?.way ?? 'variants', isId);
}

/** Calls with paths in the place of sounds; variants of sounds that are not here any more are left out. */
export function resolvedCalls(
  calls: readonly Call[],
  files: readonly PartFile[],
): Call<PathVariant>[] {
  // Of a sound with several files the first is played: briefs name the best one first.
  const paths = new Map<number, string>();
  for (const { soundId, paths: own } of files) {
    if (!paths.has(soundId)) paths.set(soundId, own[0]!);
  }
  return calls.map((call) => ({
    ...call,
    variants: call.variants.flatMap(({ soundId, odds }) => {
      const path = paths.get(soundId);
      return path === undefined ? [] : [{ path, odds }];
    }),
  }));
}

/** What a game would stumble over, and sounds that no call plays. */
export function callTroubles(
  calls: readonly Call[],
  files: readonly PartFile[],
  isId: Allowed,
): PartTrouble[] {
  const here = new Set(files.map(({ soundId }) => soundId));
  const problems = callProblems(calls, isId).map(({ index, message }) =>
    wrong('call', message, 'Correct the call.', index === null ? {} : { call: index }),
  );
  const lost = calls.flatMap(({ id, variants }, call) =>
    variants
      .filter(({ soundId }) => !here.has(soundId))
      .map(({ soundId }) =>
        wrong(
          'call',
          `A sound of the call “${id}” does not go here any more.`,
          'Take it out of the call.',
          {
            call,
            soundId,
          },
        ),
      ),
  );
  const named = new Set(calls.flatMap(({ variants }) => variants.map(({ soundId }) => soundId)));
  const unused = slottedSounds(files)
    .filter(({ soundId, slots }) => !named.has(soundId) && slots.length === 0)
    .map(({ soundId, name }): PartTrouble => ({
      ...wrong('call', `No call plays “${name}”.`, 'Put it into a call, if it is to be heard.', {
        soundId,
      }),
      weight: 'note',
    }));
  return [...problems, ...lost, ...unused];
}
