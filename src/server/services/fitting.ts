import { briefById } from '@/core/brief/catalogue';
import { remediesFor, type RemedyLadder } from '@/core/brief/fitting';
import { needOf } from '@/core/brief/needs';
import { BijouError } from '@/core/errors';
import type { Choices } from '@/core/brief/choices';
import type { Brief } from '@/core/brief/schema';
import type { OfferedRemedy, Sound, Tryout } from '@/wire';
import type { Encoding } from '../db/encodings';
import type { Context } from '../context';
import { RANK } from '../jobs/ranks';
import type { CellService } from './cells';
import type { EncodingService } from './encodings';
import type { EstimateService } from './estimates';

/** Making what is too big for its destination fit. */
export function fittingService(
  { db, briefs, changed, pump }: Context,
  cells: CellService,
  estimates: EstimateService,
  encodings: EncodingService,
) {
  /** What would make a sound's files at a brief smaller, each with what it would come to. @throws not-found */
  async function remedies(
    sound: Sound,
    briefId: string,
    signal?: AbortSignal,
  ): Promise<OfferedRemedy[]> {
    const [line] = cells
      .linesOfSounds(sound.projectId, [sound.id])
      .filter(({ assignment }) => assignment.briefId === briefId);
    const brief = briefById(briefs(sound.projectId), briefId);
    if (!line || !sound.facts) throw notSent();
    const { choices } = line.assignment;
    const { mostBytes = Infinity } = brief;
    const need = needOf({ ...sound, facts: sound.facts }, brief, choices);
    const offered: OfferedRemedy[] = [];
    for (const needed of need.files) {
      const now = await estimates.ofPlan(sound, needed.plan, signal);
      if (now.bytes <= mostBytes && !isTooBig(line, needed.file.id)) continue;
      for (const ladder of remediesFor(brief, needed, choices, now.bytes)) {
        const found = await firstThatFits(sound, brief, needed.file.id, ladder, signal);
        if (found) offered.push(found);
      }
    }
    return offered;
  }

  /** The least change of a kind that is enough; where none is, the greatest. */
  async function firstThatFits(
    sound: Sound,
    brief: Brief,
    fileId: string,
    ladder: RemedyLadder,
    signal: AbortSignal | undefined,
  ): Promise<OfferedRemedy | null> {
    const { mostBytes = Infinity } = brief;
    let last: OfferedRemedy | null = null;
    for (const remedy of ladder) {
      const after = needOf({ ...sound, facts: sound.facts! }, brief, remedy.choices);
      const plan = after.files.find(({ file }) => file.id === fileId)?.plan;
      if (!plan || after.obstacle) continue;
      const { bytes, isExact } = await estimates.ofPlan(sound, plan, signal);
      last = { ...remedy, fileId, bytes, isExact, fits: bytes <= mostBytes };
      if (last.fits) break;
    }
    return last;
  }

  /** Makes a file as it would be with these choices, to be heard before they are taken. Answers its id. */
  function tryOut(sound: Sound, briefId: string, fileId: string, choices: Choices): number {
    const brief = briefById(briefs(sound.projectId), briefId);
    if (!sound.facts) throw notSent();
    const need = needOf({ ...sound, facts: sound.facts }, brief, choices);
    const needed = need.files.find(({ file }) => file.id === fileId);
    if (!needed || need.obstacle) throw notSent();
    const id = db.transaction(() => {
      const tryoutId = db.tryouts.add(
        sound.id,
        encodings.wanted(sound.projectId, needed.plan, RANK.asked),
      );
      encodings.sweep();
      changed(sound.projectId);
      return tryoutId;
    });
    pump();
    return id;
  }

  function encodingOf(id: number): Encoding {
    const encoding = db.encodings.byId(db.tryouts.encodingOf(id) ?? -1);
    if (encoding) return encoding;
    throw new BijouError('not-found', 'That is not kept any more.', 'Press Hear once more.');
  }

  /** How far it is. @throws not-found */
  function tryout(id: number): Tryout {
    const { state, error, verification, sha256 } = encodingOf(id);
    return { id, state, error, sha256, facts: verification?.facts ?? null };
  }

  /** @throws not-found while it is not finished */
  function finished(id: number): { sha256: string } {
    const { sha256 } = encodingOf(id);
    if (sha256 === null) {
      throw new BijouError('not-found', 'It is not finished yet.', 'Wait a moment.');
    }
    return { sha256 };
  }

  return { remedies, tryOut, tryout, finished };
}

function isTooBig({ outputs }: ReturnType<CellService['lines']>[number], fileId: string): boolean {
  return outputs.some(
    (output) =>
      output.fileId === fileId &&
      output.upToDate &&
      output.verdict?.findings.some(
        ({ requirement, verdict }) => requirement === 'bytes' && verdict !== 'met',
      ),
  );
}

function notSent(): BijouError {
  return new BijouError('not-found', 'The sound does not go there.', 'Send it there first.');
}
