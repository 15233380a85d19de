import type { Brief } from '../brief/schema';
import { count } from '../tradeNames';
import { allowedCharacters } from './characters';
import type { Call } from './calls/calls';
import { ID_CHARACTERS } from './calls/check';
import type { ManifestData, PackedSound } from './data';
import { slottedSounds, type PackEntry, type PartFile, type PartInput } from './input';
import { manifestKind } from './manifests';
import { callTroubles, resolvedCalls, usesCalls, usualCalls } from './partCalls';
import { fieldTroubles, fieldValues, iconOf, titleOf } from './partFields';
import { namingProblem, pathProblem } from './paths';
import { slotStates, slotTroubles, type SlotState } from './slots';
import { writtenText } from './texts/layoutTexts';
import { wrong, type PartTrouble } from './troubles';

/** One destination's part of a pack, in its own folder or at the root. */
export interface PlannedPart {
  entries: PackEntry[];
  slots: SlotState[];
  calls: Call[];
  troubles: PartTrouble[];
}

/** Lays out what one destination gets, and says everything that is wrong with it. */
export function plannedPart(input: PartInput): PlannedPart {
  const { brief, files, settings } = input;
  const { slots = [] } = brief.layout ?? {};
  const slotted = slottedSounds(files);
  const isId = allowedCharacters(brief.layout?.calls?.characters ?? ID_CHARACTERS);
  const calls = settings.calls ?? usualCalls(input, isId);
  const resolved = resolvedCalls(calls, files);
  const icon = iconOf(input);
  const sounds = packedSounds(files);
  const data: ManifestData = {
    title: titleOf(input),
    project: input.project,
    brief: { id: brief.id, version: brief.version, title: brief.title },
    fields: fieldValues(brief, settings),
    sounds,
    calls: resolved,
    icon: icon.entry?.path ?? null,
    notes: brief.notes,
    stage: settings.stage ?? null,
  };
  const texts = (brief.layout?.texts ?? []).map((text) => writtenText(text, data, input.bytesOf));
  const hasCalls = usesCalls(brief);
  return {
    entries: [
      ...sounds.map((one) => soundEntry(one, brief.id)),
      ...(icon.entry ? [icon.entry] : []),
      ...texts.map(({ path, bytes }) => textEntry(path, bytes, brief.id)),
    ],
    slots: slotStates(slots, slotted),
    calls: hasCalls ? calls : [],
    troubles: [
      ...soundTroubles(input),
      ...slotTroubles(slots, slotted),
      ...(hasCalls ? callTroubles(calls, files, isId) : []),
      ...fieldTroubles(input),
      ...icon.troubles,
      ...texts.flatMap(({ troubles }) => troubles),
      ...pathTroubles(input),
      ...sizeTroubles(brief, sounds),
    ],
  };
}

/** Whether a manifest of a brief's pack holds bytes of its files. */
export function needsBytes({ layout }: Pick<Brief, 'layout'>): boolean {
  return (layout?.texts ?? []).some(({ manifest, options = {} }) => {
    return manifest !== undefined && (manifestKind(manifest).needsBytes?.(options) ?? false);
  });
}

function packedSounds(files: readonly PartFile[]): PackedSound[] {
  return files
    .flatMap(({ made, paths }) =>
      'reason' in made ? [] : paths.map((path): PackedSound => ({ ...made, path })),
    )
    .sort((a, b) => (a.path < b.path ? -1 : 1));
}

function soundTroubles({ brief, files }: PartInput): PartTrouble[] {
  const { others = 'beside', slots = [] } = brief.layout ?? {};
  if (files.length === 0) {
    return [wrong('sound', `No sound goes to “${brief.title}” yet.`, 'Choose some in the matrix.')];
  }
  const missing = files.flatMap(({ soundId, paths, made }): PartTrouble[] => {
    if (!('reason' in made)) return [];
    const { reason, isBuildable } = made;
    const hint = isBuildable ? 'Build it.' : 'See its cell in the matrix.';
    const trouble = wrong('sound', reason, hint, { soundId, path: paths[0]! });
    return [{ ...trouble, weight: isBuildable ? 'open' : 'wrong' }];
  });
  const loose =
    others === 'refuse' && slots.length > 0
      ? slottedSounds(files).filter((file) => file.slots.length === 0)
      : [];
  return [
    ...missing,
    ...loose.map(({ soundId, name }) =>
      wrong('slot', `“${name}” fills no slot, and nothing else is taken here.`, 'Give it a slot.', {
        soundId,
      }),
    ),
  ];
}

function pathTroubles({ brief, files }: PartInput): PartTrouble[] {
  const { icon, texts = [] } = brief.layout ?? {};
  const own = files.flatMap(({ soundId, paths }) => paths.map((path) => ({ path, soundId })));
  const beside = [icon, ...texts].flatMap((one) => (one ? [{ path: one.path }] : []));
  const unsafe = [...own, ...beside].flatMap((one) => {
    const problem = pathProblem(one.path);
    return problem ? [wrong('name', `${one.path}: ${problem}`, 'Give it another name.', one)] : [];
  });
  const misspelled = own.flatMap((one) => {
    const problem = namingProblem(one.path, brief.names);
    return problem ? [wrong('name', `${one.path}: ${problem}`, 'Give it another name.', one)] : [];
  });
  return [...unsafe, ...misspelled];
}

function sizeTroubles(
  { title, mostTotalBytes }: Brief,
  sounds: readonly PackedSound[],
): PartTrouble[] {
  const bytes = sounds.reduce((sum, one) => sum + one.bytes, 0);
  if (mostTotalBytes === undefined || bytes <= mostTotalBytes) return [];
  return [
    wrong(
      'size',
      `All sounds come to ${count(bytes)} bytes; “${title}” has room for ${count(mostTotalBytes)}.`,
      `Make them smaller by ${count(bytes - mostTotalBytes)} bytes, or leave some out.`,
    ),
  ];
}

function soundEntry({ path, bytes, sha256, soundId }: PackedSound, briefId: string): PackEntry {
  return { path, kind: 'sound', briefId, bytes, sha256, content: null, soundId };
}

function textEntry(path: string, content: Uint8Array, briefId: string): PackEntry {
  const bytes = content.length;
  return { path, kind: 'text', briefId, bytes, sha256: null, content, soundId: null };
}
