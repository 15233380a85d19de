import { mkdir, rename, stat } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { unmet } from '@/core/brief/unmet';
import { errorFacts, fromErrorFacts, type ErrorFacts } from '@/core/errors';
import type { ReadOnlyBijou } from '@/server/readOnly';
import type { Crew } from '../batch/crew';
import { inOrder } from '../batch/inOrder';
import { writeProven } from '../disk/copies';
import { dropTemporary, temporaryIn } from '../disk/temporaries';
import { Progress } from '../progress';
import { fileError } from '../disk/trouble';
import { cancelled, inTheWay, judgedBy, notRead, notTaken } from './judging';
import { Places, type PlacedEntry } from './places';
import type { Entry } from './plan';
import type { BuildRecord, Existing, RecordedFile } from './record';
import { bytesByBrief, isTooMuch, type BuildResult } from './results';

/** So often what is finished is written down meanwhile, in milliseconds. */
const WRITE_EVERY_MS = 2_000;
/** Somebody else's file stands in the way and stays. */
const KEPT = 'kept';

type Made = NonNullable<RecordedFile['made']>;
/** The same before it has its place. */
type Proven = Omit<Made, 'changedMs' | 'statusMs'>;

/** A file that was made, and where it lies; nowhere when its destination would not take it. */
interface Placed {
  path: string | null;
  made: Made;
  /** Made now, and no copy of what was there. */
  isNew: boolean;
}

/** Builds the files of one call: each plan once, several at a time, reported in their order. */
export class Builder {
  isStopped = false;
  /** Why what was built is not written down; null while it is. */
  recordTrouble: ErrorFacts | null = null;
  /** Set by the first file that the disk had no room for. */
  private diskTrouble: ErrorFacts | null = null;
  private writtenAt = performance.now();
  private readonly places: Places;
  /** What is being made, by key: the same for several is made once. */
  private readonly making = new Map<string, Promise<Placed>>();

  constructor(
    private readonly bijou: ReadOnlyBijou,
    private readonly crew: Crew,
    private readonly record: BuildRecord,
    private readonly out: string,
    private readonly isDry: boolean,
  ) {
    this.places = new Places(record, out, bijou.dataDir);
  }

  async build(
    entries: readonly Entry[],
    { isShown }: { isShown: boolean },
  ): Promise<BuildResult[]> {
    const progress = new Progress(isShown);
    const done = { files: 0, failed: 0, seconds: 0, bytesBefore: 0, bytesAfter: 0 };
    const bytes = entries.reduce((sum, { sound }) => sum + sound.bytes, 0);
    progress.expect({ files: entries.length, bytes });
    const decide = () => this.places.of(entries, this.isDry);
    const placed = await (this.isDry ? decide() : this.record.claim(decide));
    const results: BuildResult[] = [];
    const wide = inOrder(generated(placed), this.crew.width, (one) => this.result(one));
    for await (const result of wide) {
      results.push(result);
      done.files++;
      if (result.state === 'failed') done.failed++;
      done.bytesBefore += result.entry.sound.bytes;
      done.seconds += result.seconds ?? 0;
      progress.draw(done);
    }
    progress.clear();
    if (!this.isDry && this.record.isChanged) await this.writeDown();
    return this.isStopped ? results.filter(({ error }) => error?.code !== 'cancelled') : results;
  }

  async stop(): Promise<void> {
    this.isStopped = true;
    await this.crew.stop();
  }

  /** What people should know of the folder. */
  *remarks(results: readonly BuildResult[]): Generator<string> {
    const { existing } = this.record;
    const kept = results.filter(({ error }) => error?.code === 'already-there').length;
    if (existing && (kept > 0 || results.some(({ entry, path }) => entry.path !== path))) {
      yield `Files of others are ${ways[existing]}, as was chosen for this folder (--existing ${existing}).`;
    }
    for (const [{ id, title, mostTotalBytes }, bytes] of [...bytesByBrief(results)].filter(
      isTooMuch,
    )) {
      yield `${id}: all files together come to ${bytes} bytes, and "${title}" takes ${mostTotalBytes}.`;
    }
    if (this.recordTrouble) yield `${this.recordTrouble.message} ${this.recordTrouble.hint}`;
    for (const { path, warnings } of results) {
      for (const warning of warnings) yield `${path}: ${warning}`;
    }
  }

  private async result({ entry, place, trouble }: PlacedEntry): Promise<BuildResult> {
    const path = place ?? entry.path;
    const nothing = { bytes: null, sha256: null, seconds: null, verified: [], warnings: [] };
    const not = (state: 'failed' | 'skipped', error: ErrorFacts): BuildResult => ({
      entry,
      path,
      state,
      error,
      ...nothing,
    });
    if (entry.obstacle) return not(entry.isOpen ? 'skipped' : 'failed', entry.obstacle);
    if (place === null) return not('skipped', inTheWay(entry.path, this.record.existing));
    if (trouble) return not('failed', trouble);
    try {
      return await this.finished(entry, path);
    } catch (error) {
      const facts = fileError(error);
      // A full disk takes no more files either.
      if (facts.code === 'disk') this.diskTrouble ??= facts;
      await this.record.giveUp(path);
      return not('failed', facts);
    }
  }

  private async finished(entry: Entry, path: string): Promise<BuildResult> {
    const recorded = this.record.at(path);
    if (recorded?.made && recorded.key === entry.key && (await this.record.isAsLeft(path))) {
      return this.judged(entry, path, 'unchanged', recorded.made);
    }
    if (this.isStopped) throw cancelled();
    if (this.isDry) return this.expected(entry, path);
    if (this.diskTrouble) throw fromErrorFacts(this.diskTrouble);
    const pending = this.making.get(entry.key);
    // What is made for one is there for the others, unless its destination would not take it.
    const same = pending && (await pending);
    const known = same?.path ? { ...same, path: join(this.out, same.path) } : this.stored(entry);
    const work = known ? this.copied(entry, path, known) : this.madeNew(entry, path);
    if (!pending) {
      this.making.set(entry.key, work);
      work.catch(() => undefined);
    }
    const result = await work;
    if (result.path !== null) this.record.set(path, { key: entry.key, made: result.made });
    await this.noted();
    return this.judged(entry, path, result.isNew ? 'built' : 'cached', result.made);
  }

  /** Now and then what is finished is written down. */
  private async noted(): Promise<void> {
    if (performance.now() - this.writtenAt < WRITE_EVERY_MS) return;
    this.writtenAt = performance.now();
    await this.writeDown();
  }

  /** Files that are finished stay, whether they can be written down or not. */
  private async writeDown(): Promise<void> {
    try {
      await this.record.write();
      this.recordTrouble = null;
    } catch (error) {
      this.recordTrouble = fileError(error);
    }
  }

  private async madeNew(entry: Entry, path: string): Promise<Placed> {
    const { plan } = entry.needed!;
    const { db, store } = this.bijou;
    const shape = db.sources.shapeOf(plan.sourceSha256);
    if (!shape) throw notRead(entry);
    const temporary = temporaryIn(this.out);
    try {
      const { sha256, bytes, warnings, ...found } = await this.crew.do({
        kind: 'build',
        plan,
        source: store.path(plan.sourceSha256),
        raw: db.sources.rawOf(plan.sourceSha256),
        shape,
        temporary,
      });
      const messages = warnings.map(({ message }) => message);
      const proven = { sha256, bytes, found, warnings: messages };
      return await this.placedAs(entry, path, temporary, proven, true);
    } finally {
      await dropTemporary(temporary);
    }
  }

  /** Puts a complete file where it belongs, if its destination takes it. */
  private async placedAs(
    entry: Entry,
    path: string,
    temporary: string,
    made: Proven,
    isNew: boolean,
  ): Promise<Placed> {
    if (!judgedBy(entry, path, made.found).accepted) {
      return { path: null, made: { ...made, changedMs: 0 }, isNew };
    }
    const output = join(this.out, path);
    await this.places.check(path);
    await mkdir(dirname(output), { recursive: true });
    await rename(temporary, output);
    const { mtimeMs: changedMs, ctimeMs: statusMs } = await stat(output);
    return { path, made: { ...made, changedMs, statusMs }, isNew };
  }

  /** What the application has made already, where it is still in its store. */
  private stored({ key }: Entry): { path: string; made: Proven } | undefined {
    const known = this.bijou.db.encodings.byKey(key);
    if (known?.state !== 'done' || !known.sha256 || !known.verification) return undefined;
    const { facts, loudestDbfs, loop } = known.verification;
    return {
      path: this.bijou.store.path(known.sha256),
      made: {
        sha256: known.sha256,
        bytes: facts.bytes,
        found: { facts, loudestDbfs, loop },
        warnings: known.warnings.map(({ message }) => message),
      },
    };
  }

  private async copied(
    entry: Entry,
    path: string,
    { path: from, made }: { path: string; made: Proven },
  ): Promise<Placed> {
    const temporary = temporaryIn(this.out);
    try {
      await writeProven(temporary, { file: from }, made.sha256);
      return await this.placedAs(entry, path, temporary, made, false);
    } catch (error) {
      // What was there is not what was proven any more, or has gone: it is made again.
      const code = (error as { code?: string }).code;
      if (code !== 'damaged-sound' && code !== 'ENOENT') throw error;
      return await this.madeNew(entry, path);
    } finally {
      await dropTemporary(temporary);
    }
  }

  /** What would be built, with what it would come to. */
  private async expected(entry: Entry, path: string): Promise<BuildResult> {
    const { plan, shape } = entry.needed!;
    const { store, db } = this.bijou;
    const seconds = shape.frames / shape.rateHz;
    const rest = { entry, path, sha256: null, seconds, verified: [], warnings: [], error: null };
    if (this.stored(entry)) {
      return { ...rest, state: 'cached', bytes: this.stored(entry)!.made.bytes };
    }
    if (plan.isCopy) return { ...rest, state: 'built', bytes: entry.sound.bytes };
    const { sourceSha256, recipe, writer, settings, tags } = plan;
    const raw = db.sources.rawOf(sourceSha256) ?? undefined;
    const frames = db.sources.shapeOf(sourceSha256)?.frames ?? 0;
    const making = { recipe, writer, settings, tags, raw, frames };
    const place = store.path(sourceSha256);
    const { bytes, isExact } = await this.crew.do({ kind: 'estimate', place, making });
    return { ...rest, state: 'built', bytes, isEstimated: !isExact };
  }

  /** A file that its destination would not take is none. */
  private judged(
    entry: Entry,
    path: string,
    state: 'built' | 'cached' | 'unchanged',
    { sha256, bytes, found, warnings }: Made,
  ): BuildResult {
    const { facts } = found;
    const { accepted, findings } = judgedBy(entry, path, found);
    const isOpen = unmet(findings).every(({ verdict }) => verdict === 'decide');
    return {
      entry,
      path,
      state: accepted ? state : isOpen ? 'skipped' : 'failed',
      bytes,
      sha256,
      facts,
      seconds: facts.seconds,
      verified: findings,
      warnings,
      error: accepted ? null : errorFacts(notTaken(entry, findings)),
    };
  }
}

const ways: Record<Existing, string> = {
  keep: KEPT,
  replace: 'replaced',
  number: 'kept, and ours numbered',
};

async function* generated<T>(list: readonly T[]): AsyncGenerator<T> {
  yield* list;
}
