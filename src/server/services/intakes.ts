import { leftOutByName, safePath, splitPath } from '@/core/collect/arrivals';
import { BijouError, errorFacts } from '@/core/errors';
import { HEAD_BYTES, isMeantAsSound } from '@/core/formats/open';
import type { RawDescription } from '@/core/formats/raw/reader';
import { count } from '@/core/tradeNames';
import type { Arrival, ArrivalOutcome, Sound } from '@/wire';
import type { Context } from '../context';
import type { ArrivalRow, Settlement } from '../db/intakes';
import { drain, peek } from '../files/peek';
import { emptyFile, whileConnected } from '../files/store';
import { isZip } from '../files/zip';
import { MOST_ENTRIES, mostBytes, tooLarge } from '../limits';
import type { DeletionService } from './deleting';
import type { EditService, ValuesOfSound } from './edits';
import type { SoundService } from './sounds';

/** What is to become of a changed file whose name is here already, or of an archive that was offered. */
export type Decision = 'replace' | 'add' | 'keep' | 'unpack';

/** Nobody has to read or decide anything about these. */
const settled: ReadonlySet<ArrivalOutcome> = new Set([
  'added',
  'unpacked',
  'already',
  'replaced',
  'left-out',
  'cancelled',
]);

/** Acts of bringing in: what came, what became of each file, and what somebody has to decide. */
export function intakeService(
  context: Context,
  sounds: SoundService,
  edits: EditService,
  deletions: DeletionService,
) {
  const { db, store, changed } = context;

  /** Announces files that are about to be sent. Those that nobody means to bring in are left out at once. */
  function begin(projectId: number, files: readonly { path: string; bytes: number }[]) {
    if (files.length > MOST_ENTRIES) {
      throw new BijouError(
        'too-large',
        `${count(files.length)} files at once are too many; the limit is ${count(MOST_ENTRIES)}.`,
        'Bring them in in parts.',
      );
    }
    const announced = db.transaction(() => {
      dismissSettled(projectId);
      const intakeId = db.intakes.begin(projectId);
      const waiting = new Map(
        db.intakes.open(projectId, 'waiting', MOST_ENTRIES).map((a) => [a.path, a.id]),
      );
      return files.map(({ path: told, bytes }) => {
        const path = safePath(told);
        const id = db.intakes.add(intakeId, { path: path ?? told.slice(0, 400), bytes });
        const refusal = refusalOf(path, bytes);
        if (refusal) db.intakes.settle(id, refusal);
        // A file that did not arrive the last time is chosen again.
        const former = path === null ? undefined : waiting.get(path);
        if (former !== undefined) db.intakes.settle(former, { state: 'cancelled' });
        return { id, isWanted: refusal === null };
      });
    });
    changed(projectId);
    return announced;
  }

  /** What went well needs no mention any more when the next files come. */
  function dismissSettled(projectId: number): void {
    const outcomes = Object.keys(db.intakes.summary(projectId)?.counts ?? {}) as ArrivalOutcome[];
    if (outcomes.every((outcome) => settled.has(outcome))) db.intakes.dismiss(projectId);
  }

  /** Takes in the bytes of an announced file. Whatever is wrong with them is written down and answered. */
  async function receive(
    arrivalId: number,
    stream: AsyncIterable<Uint8Array>,
    expectedBytes: number | null,
    raw: RawDescription | null = null,
  ): Promise<Settlement> {
    const arrival = db.intakes.arrival(arrivalId);
    if (!arrival || !isOpen(arrival)) {
      await drain(stream);
      throw new BijouError(
        'not-found',
        'Nobody waits for this file any more.',
        'Bring it in again.',
      );
    }
    const record = (settlement: Settlement) =>
      db.transaction(() => {
        // What was refused makes room for what it is read as.
        if (arrival.soundId !== null) {
          db.sounds.setValues(arrival.soundId, { removedAt: new Date().toISOString() });
        }
        // A file that was cut off may be sent again, after a reload too.
        if (settlement.error?.code !== 'cut-off') db.intakes.settle(arrivalId, settlement);
        if (settlement.state === 'unpacking') db.jobs.add(arrival.projectId, 'unpack', arrivalId);
        changed(arrival.projectId);
      });
    const settlement = await settle(
      arrival,
      whileConnected(stream),
      { bytes: expectedBytes, raw },
      record,
    );
    context.pump();
    return settlement;
  }

  /** Whether an arrival still waits for its bytes, or failed and may be sent again. */
  function isOpen({ state, soundId }: ArrivalRow): boolean {
    if (state === 'waiting' || state === 'failed') return true;
    return soundId !== null && db.sounds.byId(soundId)?.state === 'refused';
  }

  /**
   * Finds out what bytes are and puts them where they belong. `record` writes down what became of them,
   * in one breath with what else is written down; it is answered too.
   */
  async function settle(
    arrival: Pick<ArrivalRow, 'projectId' | 'intakeId' | 'path' | 'depth'>,
    stream: AsyncIterable<Uint8Array>,
    told: { bytes: number | null; raw: RawDescription | null },
    record: (settlement: Settlement) => void,
  ): Promise<Settlement> {
    const recorded = (settlement: Settlement) => {
      record(settlement);
      return settlement;
    };
    try {
      return await place(arrival, stream, told, recorded);
    } catch (error) {
      return recorded({ state: 'failed', error: errorFacts(error) });
    }
  }

  async function place(
    { projectId, intakeId, path, depth }: Parameters<typeof settle>[0],
    stream: AsyncIterable<Uint8Array>,
    { bytes, raw }: Parameters<typeof settle>[2],
    recorded: (settlement: Settlement) => Settlement,
  ): Promise<Settlement> {
    const { folder, fileName } = splitPath(path);
    const { head, whole } = await peek(stream, HEAD_BYTES);
    const isArchive = isZip(head);
    const endsInZip = /\.zip$/i.test(fileName);
    if (isArchive && (depth === 0 || (endsInZip && depth === 1))) {
      const state = depth === 0 && endsInZip ? 'unpacking' : 'offered';
      return store.add(whole, bytes, (archiveSha256) => recorded({ state, archiveSha256 }));
    }
    if (!raw && head.length > 0 && (isArchive || !isMeantAsSound(head, fileName))) {
      // Whoever sends over HTTP listens only at the end; what comes out of an archive need not be read.
      if (depth === 0) await drain(whole);
      else await whole.return(undefined);
      const reason = isArchive && endsInZip ? 'nested-archive' : 'not-sound';
      return recorded({ state: 'left-out', reason });
    }
    let settlement: Settlement | undefined;
    await sounds.add(projectId, fileName, whole, bytes, {
      raw,
      folder,
      group: folder,
      replaces: () => changedSound(projectId, intakeId, folder, fileName)?.id ?? null,
      record: (soundId, already) =>
        void (settlement = recorded({ state: already ? 'already' : 'here', soundId })),
    });
    return settlement!;
  }

  /** The sound that an earlier version of this file was brought in as. */
  function changedSound(
    projectId: number,
    intakeId: number,
    folder: string,
    fileName: string,
  ): Sound | null {
    const others = db.sounds
      .byFile(projectId, fileName)
      // What was joined of others is nobody's earlier version.
      .filter(({ id, join }) => !join && !db.intakes.brought(intakeId, id));
    const fromThere = others.filter((sound) => sound.folder === folder);
    if (fromThere.length > 0) return fromThere[0]!;
    // Without a folder to go by, the name must speak for itself.
    const [only, ...more] = others;
    const isToldApart = folder !== '' && only?.folder !== '';
    return only && more.length === 0 && !isToldApart ? only : null;
  }

  /** Decides about files that differ from what is here, or archives that were offered: one step of the history. */
  async function decide(projectId: number, arrivalIds: readonly number[], decision: Decision) {
    db.transaction(() => {
      // Of two files that replace the same sound the later one stays.
      const replaced = new Map<number, ValuesOfSound>();
      for (const id of arrivalIds) {
        const arrival = db.intakes.arrival(id);
        if (arrival?.projectId !== projectId) continue;
        if (arrival.state === 'offered') decideArchive(arrival, decision);
        else for (const one of decideSound(arrival, decision)) replaced.set(one.soundId, one);
      }
      edits.change(projectId, 'Replace the source of', [...replaced.values()]);
      changed(projectId);
    });
    context.pump();
    await deletions.carryOut();
  }

  function decideArchive(arrival: ArrivalRow, decision: Decision): void {
    const archiveSha256 = arrival.archiveSha256!;
    if (decision === 'unpack') {
      db.intakes.settle(arrival.id, { state: 'unpacking', archiveSha256 });
      db.jobs.add(arrival.projectId, 'unpack', arrival.id);
    } else {
      db.intakes.settle(arrival.id, { state: 'left-out', reason: 'nested-archive' });
      deletions.release(archiveSha256);
    }
  }

  /** Answers what is to be other about the sound that is replaced. */
  function decideSound(arrival: ArrivalRow, decision: Decision): ValuesOfSound[] {
    const newcomer = arrival.soundId === null ? undefined : db.sounds.byId(arrival.soundId);
    if (newcomer?.state !== 'ready' || newcomer.replaces === null) return [];
    const old = db.sounds.byId(newcomer.replaces);
    if (decision === 'keep') {
      db.intakes.settle(arrival.id, { state: 'left-out', reason: 'kept-old' });
      db.sounds.forget(newcomer.id);
      deletions.release(newcomer.sourceSha256);
      return [];
    }
    if (decision === 'replace' && old && old.removedAt === null) {
      const { sourceSha256, fileName } = newcomer;
      db.intakes.settle(arrival.id, { state: 'replaced', soundId: old.id });
      db.sounds.forget(newcomer.id);
      return [{ soundId: old.id, values: { sourceSha256, fileName } }];
    }
    sounds.letStand(newcomer);
    return [];
  }

  /** Forgets what has not arrived yet. What is being read or unpacked is cancelled as a job. */
  function cancel(projectId: number): void {
    db.transaction(() => {
      for (const { id } of db.intakes.open(projectId, 'waiting', MOST_ENTRIES)) {
        db.intakes.settle(id, { state: 'cancelled' });
      }
    });
    changed(projectId);
  }

  /** Forgets one file that has not arrived yet. */
  function cancelOne(arrivalId: number): void {
    const arrival = db.intakes.arrival(arrivalId);
    if (arrival?.state !== 'waiting') return;
    db.intakes.settle(arrivalId, { state: 'cancelled' });
    changed(arrival.projectId);
  }

  /** Puts the summary away, with the sounds that were refused and what nobody decided to unpack. */
  async function dismiss(projectId: number): Promise<void> {
    cancel(projectId);
    await decide(projectId, idsOf(projectId, 'offered'), 'keep');
    await decide(projectId, idsOf(projectId, 'differs'), 'keep');
    db.transaction(() => {
      db.sounds.removeRefused(projectId);
      db.intakes.dismiss(projectId);
    });
    changed(projectId);
  }

  function idsOf(projectId: number, outcome: ArrivalOutcome): number[] {
    return db.intakes.open(projectId, outcome, MOST_ENTRIES).map(({ id }) => id);
  }

  /** All arrivals of one outcome that have not been dismissed. */
  function arrivals(projectId: number, outcome: ArrivalOutcome): Arrival[] {
    return db.intakes.open(projectId, outcome, MOST_ENTRIES);
  }

  return {
    begin,
    receive,
    settle,
    decide,
    cancel,
    cancelOne,
    dismiss,
    arrivals,
    summary: db.intakes.summary,
  };
}

export type IntakeService = ReturnType<typeof intakeService>;

/** What can be said of a file before it is sent; null for nothing against it. */
function refusalOf(path: string | null, bytes: number): Settlement | null {
  const reason = path === null ? 'unsafe-path' : leftOutByName(path);
  if (reason) return { state: 'left-out', reason };
  if (bytes === 0) return { state: 'failed', error: errorFacts(emptyFile()) };
  return bytes > mostBytes() ? { state: 'failed', error: errorFacts(tooLarge()) } : null;
}
