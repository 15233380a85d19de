import { slottedSounds } from '@/core/pack/input';
import { usesCalls } from '@/core/pack/partCalls';
import { fieldValues, titleOf } from '@/core/pack/partFields';
import { isRight, packPlan, type PackPlan } from '@/core/pack/plan';
import type { OutlinedFile, PackOutline, PackPart } from '@/wire';
import { digestOf } from '../files/packDigest';
import { readPack, type Settled, type StoredPart } from './packSource';
import { addressOf } from './planPack';
import type { OutlineTask } from './tasks';

/** A pack as it would be made now, for those who look at it and for those who make it. */
export interface LaidOut extends Settled {
  /** A `PackOutline` as JSON in UTF-8: of ten thousand files it is long, and is only handed on. */
  outline: Uint8Array;
  title: string;
  newest: PackOutline['newest'];
  /** Why it may not be made, whatever is built first. */
  wrong: string[];
  /** Cells of which something has to be built first, and can be. */
  missing: number[];
}

/** Lays out a pack of what is in the data folder, and puts it into words. */
export async function outlinePack({ source, newest: before }: OutlineTask): Promise<LaidOut> {
  const { inputs, isSettled } = readPack(source);
  const plan = packPlan(inputs);
  const { entries, troubles } = plan;
  const isCurrent = () =>
    isRight(plan) &&
    digestOf(entries.map((one) => ({ ...one, sha256: addressOf(one) }))) === before?.digest;
  const newest = before && { id: before.id, isCurrent: isCurrent() };
  const toBuild = inputs.flatMap(({ files }) =>
    files.filter(({ made }) => 'reason' in made && made.isBuildable),
  );
  const outline: PackOutline = {
    files: outlinedFiles(inputs, plan),
    parts: inputs.map((input, i) => outlinedPart(input, plan, i)),
    ...{ troubles, toBuild: toBuild.length, newest },
  };
  return {
    ...{ isSettled, newest },
    outline: new TextEncoder().encode(JSON.stringify(outline)),
    title: inputs.length === 1 ? titleOf(inputs[0]!) : source.project,
    wrong: troubles.flatMap(({ weight, message }) => (weight === 'wrong' ? [message] : [])),
    missing: [...new Set(toBuild.map(({ cellId }) => cellId))],
  };
}

/** What is there, and what has to be built first, in the order of their paths. */
function outlinedFiles(
  inputs: readonly StoredPart[],
  { entries, parts }: PackPlan,
): OutlinedFile[] {
  const missing = inputs.flatMap(({ brief, files }, i) => {
    const { folder } = parts[i]!;
    return files.flatMap(({ made, paths, soundId }) => {
      if (!('reason' in made)) return [];
      return paths.map((path) => ({
        path: folder === '' ? path : `${folder}/${path}`,
        kind: 'sound' as const,
        briefId: brief.id,
        bytes: 0,
        soundId,
        sha256: null,
      }));
    });
  });
  const there = entries.map((entry) => {
    const { path, kind, briefId, bytes, soundId } = entry;
    return { path, kind, briefId, bytes, soundId, sha256: addressOf(entry) };
  });
  return [...there, ...missing].sort((a, b) => (a.path < b.path ? -1 : 1));
}

function outlinedPart(input: StoredPart, plan: PackPlan, i: number): PackPart {
  const { brief, settings, files } = input;
  const part = plan.parts[i]!;
  const waiting = new Set(
    files.flatMap(({ soundId, made }) => ('reason' in made ? [soundId] : [])),
  );
  return {
    briefId: brief.id,
    folder: part.folder,
    layout: brief.layout ?? null,
    settings,
    title: titleOf(input),
    fields: fieldValues(brief, settings),
    slots: part.slots,
    calls: part.calls,
    usesCalls: usesCalls(brief),
    sounds: slottedSounds(files).map(({ soundId, paths, slots }) => ({
      soundId,
      paths: [...paths],
      slots: [...slots],
      isReady: !waiting.has(soundId),
    })),
    soundBytes: plan.entries
      .filter(({ kind, briefId }) => kind === 'sound' && briefId === brief.id)
      .reduce((sum, { bytes }) => sum + bytes, 0),
    mostTotalBytes: brief.mostTotalBytes ?? null,
  };
}
