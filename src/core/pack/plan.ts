import type { PackEntry, PartInput } from './input';
import { folderInPack } from './layout';
import { plannedPart, type PlannedPart } from './part';
import { meetings, pathProblem } from './paths';
import type { PackTrouble } from './troubles';

/** A pack as it would be made now. */
export interface PackPlan {
  /** In the order of their paths. */
  entries: PackEntry[];
  /** What each destination gets, in its own folder. */
  parts: (PlannedPart & { briefId: string; folder: string })[];
  /** Everything that is to be known, what is wrong first. */
  troubles: PackTrouble[];
}

/** Lays out what several destinations get, side by side, and says everything that is wrong with it. */
export function packPlan(inputs: readonly PartInput[]): PackPlan {
  const isAlone = inputs.length === 1;
  const parts = inputs.map((input) => ({
    ...plannedPart(input),
    briefId: input.brief.id,
    folder: folderInPack(input.brief, isAlone),
  }));
  const entries = parts
    .flatMap(({ folder, entries: own }) =>
      own.map((entry) => ({
        ...entry,
        path: folder === '' ? entry.path : `${folder}/${entry.path}`,
      })),
    )
    .sort((a, b) => (a.path < b.path ? -1 : 1));
  const folders = parts.flatMap(({ briefId, folder }): PackTrouble[] => {
    const problem = folder === '' ? null : pathProblem(folder);
    const message = `The folder ${folder}: ${problem}`;
    const hint = 'Correct its brief.';
    return problem
      ? [{ weight: 'wrong', about: 'name', briefId, message, hint, path: folder }]
      : [];
  });
  const all: PackTrouble[] = [
    ...parts.flatMap(({ briefId, troubles }) => troubles.map((one) => ({ ...one, briefId }))),
    ...folders,
    ...meetings(
      entries.map(({ soundId, ...entry }) => ({ ...entry, soundId: soundId ?? undefined })),
    ),
  ];
  const order = { wrong: 0, open: 1, note: 2 };
  return { entries, parts, troubles: all.sort((a, b) => order[a.weight] - order[b.weight]) };
}

/** Why a pack may not be made as things are. */
export function reasonsAgainst({ troubles }: Pick<PackPlan, 'troubles'>): PackTrouble[] {
  return troubles.filter(({ weight }) => weight !== 'note');
}

/** Whether a pack may be made. */
export function isRight(plan: Pick<PackPlan, 'troubles'>): boolean {
  return reasonsAgainst(plan).length === 0;
}
