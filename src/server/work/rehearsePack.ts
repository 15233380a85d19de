import { groupBy } from '@/core/group';
import { hostById } from '@/core/host';
import type { Check } from '@/core/host/checks';
import { heldFile } from '@/core/host/pack';
import { rehearse } from '@/core/host/rehearse';
import { packPlan } from '@/core/pack/plan';
import type { RehearsalSummary } from '@/wire';
import type { RehearsedSound } from '../db/rehearsals';
import { foundFile } from '../files/foundPacks';
import { FileStore } from '../files/store';
import { filesKey, rehearsedBy } from '../services/cellStates';
import { readPack, type Settled, type StoredPart } from './packSource';
import type { RehearseTask } from './tasks';

/** What a host said of a destination's pack: of all of it, and of each sound that is wholly there, as JSON. */
export interface SaidOfPack extends Settled {
  said: Omit<NonNullable<RehearsalSummary['said']>, 'at'>;
  /** `RehearsedSound[]` */
  told: string;
}

/** Brings a destination's pack, as it would be now, to a host. */
export async function rehearsePack({ hostId, name, source }: RehearseTask): Promise<SaidOfPack> {
  const { inputs, isSettled } = readPack(source);
  const { entries } = packPlan(inputs);
  const store = new FileStore(source.dataDir);
  const found = await Promise.all(
    entries.map(({ path, content, sha256 }) =>
      content ? heldFile(path, content) : foundFile(store.path(sha256!), path),
    ),
  );
  const pack = { name, form: 'zip' as const, files: found };
  const { host, hostVersion, accepted, checks } = await rehearse(hostById(hostId), pack);
  const refused = checks.filter(({ verdict }) => verdict === 'refused');
  const [first] = refused;
  const soundOf = new Map(entries.map(({ path, soundId }) => [path, soundId]));
  const refusals = groupBy(refused, ({ file }) => soundOf.get(file) ?? null);
  const told = inputs.flatMap(wholeCells).map(({ cellId, soundId, hashes }): RehearsedSound => {
    const refusal = refusals.get(soundId)?.[0];
    return {
      assignmentId: cellId,
      host: rehearsedBy(host, hostVersion),
      files: filesKey(hashes),
      refusal: refusal ? sentenceOf(refusal) : null,
    };
  });
  return {
    isSettled,
    told: JSON.stringify(told),
    said: {
      ...{ host, hostVersion, accepted, refused: refused.length },
      first: first ? sentenceOf(first) : null,
    },
  };
}

/** Cells of which every file is made. */
function wholeCells({ files }: StoredPart) {
  return [...groupBy(files, ({ cellId }) => cellId).values()].flatMap((own) => {
    const { cellId, soundId } = own[0]!;
    const hashes = own.flatMap(({ made }) => ('reason' in made ? [] : [made.sha256]));
    return hashes.length < own.length ? [] : [{ cellId, soundId, hashes }];
  });
}

function sentenceOf({ file, found, asked }: Check): string {
  return `${file}: ${found}; asked: ${asked}.`;
}
