import type { Candidate } from '@/core/compare/candidates/candidate';
import { candidateText, namedCandidate } from '@/core/compare/candidates/text';
import { exportedJson, trialsCsv } from '@/core/compare/export';
import { maybeVoices, pickFew, type PickedSound } from '@/core/compare/pick';
import { planTrial } from '@/core/compare/plan';
import { BijouError } from '@/core/errors';
import { groupBy } from '@/core/group';
import { sizeKeyOf } from '@/core/brief/expected';
import { writerById } from '@/core/formats/write';
import { safeFileName } from '@/core/pack/names';
import type { Comparison, ComparisonSummary, Sound, Trial, TrialDetails } from '@/wire';
import type { Context } from '../context';
import type { SizedFile } from '../db/cellFiles';
import type { ComparisonRow, TrialRow } from '../db/trials';
import type { CellService } from './cells';
import { soundBasis } from './bases';
import { encodingKey, type EncodingService } from './encodings';
import { serveStored, type Asking } from '../files/serving';
import { noFile } from '../work/tryFile';
import type { Listened, ListeningService } from './listening';
import { projectById, readSound } from './lookUp';
import { comparisonById, trialState } from './trialStates';

/** So many of the sounds that may be voices are listened to. */
const MOST_HEARD = 6;

/** What trials came to: runs, one run, one trial. */
export function comparisonService(
  { db, store }: Context,
  encodings: Pick<EncodingService, 'isThere'>,
  cells: Pick<CellService, 'sizedFiles'>,
  listening: Pick<ListeningService, 'ask'>,
) {
  function list(projectId: number): ComparisonSummary[] {
    return db.trials.summaries(projectById(db, projectId).id);
  }

  /** @throws not-found */
  function details(id: number): Comparison {
    const row = comparisonById(db, id);
    const timing = db.jobs.of('decoding', id);
    const all = db.trials.of(id);
    const known = knownOf(row, all);
    return {
      id,
      createdAt: row.createdAt,
      machine: row.machine,
      runs: row.runs,
      trials: all.map((trial) => trialOf(row, trial, known)),
      workProgress: timing === undefined ? null : (db.jobs.byId(timing)?.progress ?? 0),
    };
  }

  /** What is known of the trials of a run beside themselves, asked for together. */
  function knownOf(row: ComparisonRow, all: readonly TrialRow[]) {
    const encodingIds = all.flatMap(({ encodingId }) => encodingId ?? []);
    const soundIds = [...new Set(all.map((one) => one.soundId))];
    return {
      encodings: db.encodings.inShort(encodingIds),
      trialJobs: db.jobs.ofSubjects(
        'trial',
        all.map((one) => one.id),
      ),
      encodeJobs: db.jobs.ofSubjects('encode', encodingIds),
      earlier: new Map(db.trials.earlier(row).map((one) => [keyOf(one), one])),
      sounds: new Map(soundIds.map((id) => [id, db.sounds.byId(id)])),
      named: new Map(
        [...new Set(all.map(({ candidate }) => candidate))].map((candidate) => [
          candidate,
          namedCandidate(candidate),
        ]),
      ),
      uses: groupBy(cells.sizedFiles(soundIds), useKey),
    };
  }

  function trialOf(
    { projectId }: ComparisonRow,
    trial: TrialRow,
    known: ReturnType<typeof knownOf>,
  ): Trial {
    const { id, soundId, how, figures, work, encodingId } = trial;
    const candidate = known.named.get(trial.candidate)!;
    const encoding = encodingId === null ? undefined : known.encodings.get(encodingId);
    const before = known.earlier.get(keyOf(trial));
    const trialJob = known.trialJobs.get(id);
    const job = trialJob ?? (encoding && known.encodeJobs.get(encoding.id));
    return {
      ...{ id, soundId, candidate },
      state: trialState(trial, encoding, trialJob),
      progress: job?.progress ?? 0,
      error: trial.error ?? (figures ? null : (encoding?.error ?? null)),
      changes: how?.changes ?? [],
      bytes: encoding?.bytes ?? null,
      measured: figures &&
        how && {
          ...{ candidate, settings: how.settings, sound: how.sound, work },
          figures,
          encodeMs: encoding?.encodeMs ?? null,
        },
      isStale:
        encoding !== undefined &&
        isStale(projectId, known.sounds.get(soundId), trial, encoding.key),
      before: before
        ? {
            comparisonId: before.comparisonId,
            work: before.work,
            bytes: before.bytes,
            grade: before.grade,
          }
        : null,
      usedIn: usedIn(trial, known.uses),
    };
  }

  /** Whether another file would be made for it now. */
  function isStale(
    projectId: number,
    sound: Sound | undefined,
    { candidate, basis }: TrialRow,
    key: string,
  ): boolean {
    const isThere = sound && sound.removedAt === null && sound.error === null;
    if (isThere && basis === soundBasis(sound)) return false;
    return (sound ? keyNow(projectId, sound, candidate) : null) !== key;
  }

  // A sound is the same object until something of it changes.
  const keys = new WeakMap<Sound, Map<string, string | null>>();

  function keyNow(projectId: number, sound: Sound, candidate: Candidate): string | null {
    const own = keys.get(sound) ?? new Map<string, string | null>();
    keys.set(sound, own);
    const text = JSON.stringify(candidate);
    const key = own.has(text) ? own.get(text)! : plannedKey(projectId, sound.id, candidate);
    own.set(text, key);
    return key;
  }

  /** The key that a trial would have now; null where it could not be made. */
  function plannedKey(projectId: number, soundId: number, candidate: Candidate): string | null {
    try {
      return encodingKey(planTrial(readSound(db, projectId, soundId), candidate).plan);
    } catch (error) {
      if (!(error instanceof BijouError)) throw error;
      return null;
    }
  }

  /** A closer look at one trial. @throws not-found */
  function trialDetails(id: number): TrialDetails {
    const trial = db.trials.byId(id);
    const figures = db.trials.figuresOf(id);
    if (!trial?.how || !figures) {
      throw new BijouError('not-found', 'That trial is not there any more.', 'Compare again.');
    }
    const { soundId, how } = trial;
    const candidate = namedCandidate(trial.candidate);
    return { id, soundId, candidate, figures, sound: how.sound };
  }

  /** The file that was made for a trial. @throws not-found */
  function trialFile(id: number) {
    const trial = db.trials.byId(id);
    const encoding = trial?.encodingId ? db.encodings.byId(trial.encodingId) : undefined;
    if (!trial || !encoding?.sha256 || !encodings.isThere(encoding)) throw noFile();
    const { extension, mimeType } = writerById(trial.candidate.writer);
    const sound = db.sounds.byId(trial.soundId)?.name ?? 'sound';
    const candidate = candidateText(trial.candidate).replace('/', ' ');
    const name = `${safeFileName(`${sound} ${candidate}`)}.${extension}`;
    return { sha256: encoding.sha256, name, mimeType };
  }

  /** The figures of a run as a text. @throws not-found */
  function exported(id: number, as: 'csv' | 'json'): { name: string; text: string } {
    const { trials } = details(id);
    const files = [...groupBy(trials, ({ soundId }) => soundId)].map(([soundId, own]) => ({
      name: db.sounds.byId(soundId)?.name ?? String(soundId),
      rows: own.map(({ candidate, measured: trial, error }) => ({
        ...{ candidate, trial, error },
        text: candidate.text,
      })),
    }));
    const name = `comparison ${id}.${as}`;
    if (as === 'csv') return { name, text: trialsCsv(files) };
    const list = files.map(({ name: file, rows }) => {
      const sound = rows.find(({ trial }) => trial)?.trial?.sound;
      return {
        ...{ file, seconds: sound?.seconds ?? null, sourceBytes: sound?.sourceBytes ?? null },
        trials: rows.map((row) => exportedJson(row)),
      };
    });
    return { name, text: `${JSON.stringify(list, null, 2)}\n` };
  }

  /** One side of a trial as it is compared: at the rate of the sound, with the channels of the file. @throws not-found */
  function side(id: number, isSource: boolean): Listened {
    const trial = db.trials.byId(id);
    const plan = trial?.encodingId ? db.encodings.planOf(trial.encodingId) : null;
    if (!trial?.how || !plan) throw noFile();
    const { reference, sound } = trial.how;
    if (isSource) return { sha256: plan.sourceSha256, recipe: reference };
    const { sha256 } = trialFile(id);
    const { sampleRateHz: rateHz } = sound;
    const isSame = trial.figures?.sampleRateHz === rateHz;
    const steps = isSame ? [] : [{ kind: 'resample', on: true, params: { rateHz } }];
    return { sha256, recipe: { version: 1, steps } };
  }

  /** Reads it, or a part of it. @throws as `trialFile` */
  async function file(id: number, asked: Asking) {
    const { sha256, ...about } = trialFile(id);
    return { ...about, ...(await serveStored(store.path(sha256), sha256, asked)) };
  }

  /** A few sounds that are as different as codecs can tell, and why each. @throws not-found */
  async function few(projectId: number, signal?: AbortSignal): Promise<PickedSound[]> {
    const sounds = db.sounds
      .ofProject(projectById(db, projectId).id)
      .flatMap(({ id, facts, sourceSha256, state }) => {
        if (!facts || !sourceSha256 || state !== 'ready') return [];
        return { id, facts, sourceSha256, spectrum: db.sources.spectrumOf(sourceSha256) };
      });
    const maybe = maybeVoices(sounds, MOST_HEARD).map(async ({ id, sourceSha256: sha256 }) => {
      const asked = { sha256, recipe: null, ...(signal && { signal }) };
      // What cannot be read stands for nothing.
      const likelihood = await listening.ask(asked, 'voice', {}).catch(() => 0);
      return [id, likelihood] as const;
    });
    const voices = new Map(await Promise.all(maybe));
    return pickFew(sounds.map((sound) => ({ ...sound, voice: voices.get(sound.id) ?? 0 })));
  }

  return { few, list, details, trialDetails, trialFile, side, file, exported };
}

/** Tells sounds apart, and ways of making files of them. */
const useKey = ({ soundId, sizeKey }: Pick<SizedFile, 'soundId' | 'sizeKey'>) =>
  `${soundId} ${sizeKey}`;

/** The destinations whose files of the sound are made in the very same way. */
function usedIn(
  { soundId, candidate, how, figures }: TrialRow,
  uses: ReadonlyMap<string, readonly SizedFile[]>,
): string[] {
  if (!how || !figures) return [];
  const { sampleRateHz, channels } = figures;
  const sizeKey = sizeKeyOf(candidate.writer, how.settings, sampleRateHz, channels);
  const own = uses.get(useKey({ soundId, sizeKey })) ?? [];
  return [...new Set(own.map(({ briefId }) => briefId))];
}

/** Tells the same candidate on the same sound in several runs. */
function keyOf({ soundId, candidate }: Pick<TrialRow, 'soundId' | 'candidate'>): string {
  return `${soundId} ${JSON.stringify(candidate)}`;
}
