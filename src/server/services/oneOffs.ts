import { BijouError, errorFacts } from '@/core/errors';
import { legalDials } from '@/core/formats/legality';
import { writerById } from '@/core/formats/write';
import { cueSheets, handoverOf, type HandoverWish } from '@/core/loop/handover';
import type { WholeLevels } from '@/core/measure/levels';
import { oneOffOf, type OneOff, type OneOffWish } from '@/core/oneOff/plan';
import { gainTogether } from '@/core/oneOff/together';
import type { Estimate } from '@/core/oneOff/estimate';
import { freeName, safeFileName } from '@/core/pack/names';
import type { OneOffFile, OneOffOutlooks, OneOffSet, Sound } from '@/wire';
import type { Context } from '../context';
import type { OneOffFileRow, OneOffRow } from '../db/oneOffs';
import { serveStored, type Asking } from '../files/serving';
import { zipStream } from '../files/zipping';
import { RANK } from '../jobs/ranks';
import type { EncodingService } from './encodings';
import type { EstimateService } from './estimates';
import type { ListeningService } from './listening';
import { projectById, readSound, soundById } from './lookUp';

/** Conversions of a project that are kept; what only older ones need goes. */
const MOST_KEPT = 5;

/** Conversions that are asked for directly: nothing is sent to a destination by them. */
export function oneOffService(
  { db, store, changed, pump, cancel }: Context,
  encodings: EncodingService,
  listening: ListeningService,
  estimates: EstimateService,
) {
  /** What would become of sounds, without anything being made. */
  function outlook(
    projectId: number,
    soundIds: readonly number[],
    wish: OneOffWish,
  ): OneOffOutlooks {
    const kind = writerById(wish.writer);
    const shapes: { rateHz: number; channels: number }[] = [];
    const sounds = soundIds.map((soundId) => {
      try {
        const { plan, shape, ...rest } = oneOffOf(readSound(db, projectId, soundId), wish);
        const { rateHz, channelCount: channels, frames } = shape;
        shapes.push({ rateHz, channels });
        const usual = kind.usualBytes?.(plan.settings as never, rateHz, channels) ?? null;
        return { soundId, error: null, ...rest, seconds: frames / rateHz, usual };
      } catch (error) {
        const nothing = { changes: [], lost: null, overDb: null, seconds: 0, usual: null };
        return { soundId, error: errorFacts(error), ...nothing };
      }
    });
    return { sounds, dials: legalDials(kind, shapes) };
  }

  /** What a sound will come to, in bytes. @throws what it cannot be made for */
  function estimate(sound: Sound, wish: OneOffWish, signal?: AbortSignal): Promise<Estimate> {
    const { facts } = readSound(db, sound.projectId, sound.id);
    const { plan } = oneOffOf({ ...sound, facts }, wish);
    return estimates.ofPlan(sound, plan, signal);
  }

  /** Converts sounds, each by itself; those that cannot be converted have an error in its place. */
  async function begin(
    projectId: number,
    soundIds: readonly number[],
    wish: OneOffWish,
  ): Promise<OneOffSet> {
    projectById(db, projectId);
    if (soundIds.length === 0) throw noSounds();
    const { extension } = writerById(wish.writer);
    const gainDb = wish.together ? await gainFor(projectId, soundIds, wish) : 0;
    const taken = new Set<string>();
    const id = db.transaction(() => {
      const oneOffId = db.oneOffs.add(projectId, wish);
      for (const soundId of soundIds) {
        const sound = db.sounds.byId(soundId);
        if (sound?.projectId !== projectId) continue;
        const name = freeName(sound.name, extension, taken);
        db.oneOffs.addFile({ oneOffId, soundId, name, ...plannedFile(sound) });
      }
      db.oneOffs.dropOld(projectId, MOST_KEPT);
      encodings.sweep();
      changed(projectId);
      return oneOffId;
    });
    pump();
    return state(db.oneOffs.byId(id)!);

    function plannedFile(sound: Sound): Pick<OneOffFileRow, 'changes' | 'encodingId' | 'error'> {
      try {
        const { plan, changes } = oneOffOf(readSound(db, projectId, sound.id), wish, gainDb);
        return { changes, encodingId: encodings.wanted(projectId, plan, RANK.asked), error: null };
      } catch (error) {
        if (!(error instanceof BijouError)) throw error;
        return { changes: [], encodingId: null, error: errorFacts(error) };
      }
    }
  }

  /**
   * Makes the files of a sound's loop: its pieces, a copy to listen to, and what says how they follow one another.
   * @throws not-allowed where it has no loop
   */
  function beginHandover(soundId: number, wish: HandoverWish): OneOffSet {
    const { projectId } = soundById(db, soundId);
    const sound = readSound(db, projectId, soundId);
    const { files, handover, form } = handoverOf(sound, wish);
    const taken = new Set<string>();
    const id = db.transaction(() => {
      const oneOffId = db.oneOffs.add(projectId, form, handover);
      for (const { plan, mark, changes } of files) {
        const { extension } = writerById(plan.writer);
        const name = freeName(`${sound.name}${mark}`, extension, taken);
        const encodingId = encodings.wanted(projectId, plan, RANK.asked);
        db.oneOffs.addFile({ oneOffId, soundId, name, changes, encodingId, error: null });
      }
      db.oneOffs.dropOld(projectId, MOST_KEPT);
      encodings.sweep();
      changed(projectId);
      return oneOffId;
    });
    pump();
    return state(db.oneOffs.byId(id)!);
  }

  /** One gain for all, from how loud each is behind its own steps. @throws not-legal */
  async function gainFor(projectId: number, soundIds: readonly number[], wish: OneOffWish) {
    const levels: WholeLevels[] = [];
    for (const soundId of soundIds) {
      const sound = readSound(db, projectId, soundId);
      const { plan } = oneOffOf(sound, wish);
      const found = await listening.ask(
        { sha256: plan.sourceSha256, recipe: plan.recipe },
        'levels',
        {
          isThorough: true,
        },
      );
      levels.push({ ...found, momentaryLufs: null });
    }
    return gainTogether(levels, wish.together!);
  }

  function state({ id, wish, handover, createdAt }: OneOffRow): OneOffSet {
    return { id, wish, handover, createdAt, files: db.oneOffs.files(id).map(fileState) };
  }

  function fileState(row: OneOffFileRow): OneOffFile {
    const { id, soundId, name, changes, encodingId } = row;
    const encoding = encodingId === null ? null : db.encodings.byId(encodingId)!;
    const job = encoding && db.jobs.of('encode', encoding.id);
    return {
      ...{ id, soundId, name, changes },
      state: encoding?.state ?? (row.error?.code === 'cancelled' ? 'cancelled' : 'failed'),
      error: row.error ?? encoding?.error ?? null,
      warnings: encoding?.warnings.map(({ message }) => message) ?? [],
      progress: (job && db.jobs.byId(job)?.progress) ?? 0,
      sourceBytes: db.sounds.byId(soundId)?.bytes ?? 0,
      facts: encoding?.verification?.facts ?? null,
      sha256: encoding?.sha256 ?? null,
    };
  }

  /** @throws not-found */
  function known(id: number): OneOffRow {
    const found = db.oneOffs.byId(id);
    if (found) return found;
    throw new BijouError('not-found', 'That conversion is not there any more.', 'Convert again.');
  }

  /** Stops what is not finished of a conversion. Files that something else waits for are made all the same, for that. */
  function stop(id: number): OneOffSet {
    const { projectId } = known(id);
    for (const { id: fileId, encodingId } of db.oneOffs.files(id)) {
      const job = encodingId === null ? undefined : db.jobs.of('encode', encodingId);
      if (encodingId === null || job === undefined) continue;
      if (!encodings.isWantedElse(encodingId, 'oneOffFiles', id)) cancel(job);
      else db.oneOffs.giveUpFile(fileId, errorFacts(stopped()));
    }
    changed(projectId);
    return state(known(id));
  }

  /** A finished file, with its name and type. @throws not-found while it is not finished */
  function finished(id: number) {
    const row = db.oneOffs.file(id);
    const encoding = row?.encodingId ? db.encodings.byId(row.encodingId) : undefined;
    if (!row || !encoding?.sha256 || !encodings.isThere(encoding)) {
      throw new BijouError('not-found', 'That file is not there.', 'Convert again.');
    }
    const { mimeType } = writerById(db.encodings.planOf(encoding.id)!.writer);
    return { sha256: encoding.sha256, name: row.name, mimeType };
  }

  /** Reads a finished file, or a part of it. @throws as `finished` */
  async function file(id: number, asked: Asking) {
    const { sha256, ...about } = finished(id);
    return { ...about, ...(await serveStored(store.path(sha256), sha256, asked)) };
  }

  /** All finished files of a conversion as a zip. @throws not-found where there are none */
  function zip(id: number) {
    const row = known(id);
    const files = state(row).files.flatMap(({ name, sha256 }) =>
      sha256 ? [{ name, sha256 }] : [],
    );
    if (files.length === 0) {
      throw new BijouError('not-found', 'There is no finished file yet.', 'Wait a moment.');
    }
    const sheets = row.handover ? cueSheets(row.handover, state(row).files) : [];
    async function* entries() {
      const letGo = store.derived.hold(files.map(({ sha256 }) => sha256));
      try {
        for (const { name, sha256 } of files) {
          yield { path: name, content: { file: store.path(sha256) } };
        }
        for (const [path, text] of sheets) yield { path, content: text };
      } finally {
        letGo();
      }
    }
    if (row.handover) {
      return { name: `${safeFileName(row.handover.name)}.zip`, stream: zipStream(entries()) };
    }
    const { name } = projectById(db, row.projectId);
    const { extension } = writerById(row.wish.writer);
    return { name: `${safeFileName(name)} ${extension}.zip`, stream: zipStream(entries()) };
  }

  /** How those of some sounds are made that can be. */
  function planned(projectId: number, soundIds: readonly number[], wish: OneOffWish): OneOff[] {
    return soundIds.flatMap((id) => {
      try {
        return [oneOffOf(readSound(db, projectId, id), wish)];
      } catch (error) {
        if (!(error instanceof BijouError)) throw error;
        return [];
      }
    });
  }

  return {
    planned,
    outlook,
    estimate,
    begin,
    beginHandover,
    stop,
    state: (id: number) => state(known(id)),
    /** The newest set of a sound's loop; null where there is none. */
    latestHandover(soundId: number): OneOffSet | null {
      const row = db.oneOffs.latestHandover(soundId);
      return row ? state(row) : null;
    },
    /** The newest of a project; null where there is none. */
    latest(projectId: number): OneOffSet | null {
      const row = db.oneOffs.latest(projectById(db, projectId).id);
      return row ? state(row) : null;
    },
    finished,
    file,
    zip,
  };
}

export type OneOffService = ReturnType<typeof oneOffService>;

function stopped(): BijouError {
  return new BijouError('cancelled', 'It was stopped.', 'Convert again.');
}

function noSounds(): BijouError {
  return new BijouError('bad-setting', 'No sound is chosen.', 'Choose at least one.');
}
