import { checkFinished, type Judged } from '@/core/brief/check';
import { levelRemark } from '@/core/brief/levels';
import { expectedBytes, sizeKey } from '@/core/brief/expected';
import { lossesOf } from '@/core/brief/losses';
import { needOf, type Need } from '@/core/brief/needs';
import { briefById, storedBrief } from '@/core/brief/catalogue';
import type { Choices } from '@/core/brief/choices';
import type { Brief } from '@/core/brief/schema';
import { BijouError, errorFacts, fromErrorFacts } from '@/core/errors';
import { groupBy } from '@/core/group';
import type { Tags } from '@/core/marks';
import { namesMeet, type GivenName } from '@/core/pack/naming';
import type { Assignment, Cell, Output, PackLine, PlannedFile, Sound } from '@/wire';
import type { Context } from '../context';
import type { Encoding } from '../db/encodings';
import type { OutputRow } from '../db/packs';
import { encodingKey } from './encodings';
import { finishedFacts, isClipping, rehearsedAs, stateOf } from './cellStates';
import { namesOf, placeKey } from './placing';

/** Some milliseconds of work. */
const CELLS_AT_ONCE = 60;

/** So many cells tell what files of a kind come to. */
const MOST_NEIGHBOURS = 1_000;

/** What an assignment needs, with the keys of its files. */
interface KeyedNeed extends Need {
  keys: Map<string, string>;
}

/** Looking at what goes where: what it needs, what has come of it, and what its brief says of that. */
export function cellService({ db, briefs }: Pick<Context, 'db' | 'briefs'>) {
  // A sound is the same object until something of it changes: then it is planned anew.
  const needs = new WeakMap<Sound, Map<string, KeyedNeed>>();

  function keyedNeed(sound: Sound, { briefId, choices }: Assignment): KeyedNeed {
    const ofSound = needs.get(sound) ?? new Map<string, KeyedNeed>();
    needs.set(sound, ofSound);
    // People edit their own briefs: another version is another one.
    const version = briefs(sound.projectId).find(({ id }) => id === briefId)?.version;
    const key = JSON.stringify([briefId, version, choices]);
    const need = ofSound.get(key) ?? workedOut(sound, briefId, choices);
    ofSound.set(key, need);
    return need;
  }

  function workedOut(sound: Sound, briefId: string, choices: Assignment['choices']): KeyedNeed {
    try {
      const brief = briefById(briefs(sound.projectId), briefId);
      const { facts } = sound;
      if (sound.state === 'reading' || sound.error || !facts) throw notReady(sound);
      // The very same object for all briefs: what is known of it is worked out once.
      const need = needOf(sound as Sound & { facts: typeof facts }, brief, choices);
      return {
        ...need,
        keys: new Map(need.files.map(({ file, plan }) => [file.id, encodingKey(plan)])),
      };
    } catch (error) {
      return { findings: [], files: [], obstacle: errorFacts(error), keys: new Map() };
    }
  }

  // What was measured on a finished file never changes, and what a brief says of it hardly ever.
  const verdicts = new WeakMap<object, WeakMap<Brief, Map<string, Judged>>>();

  /** What a brief says of a finished file, from what was measured on it. */
  function verdictOf(
    { verification }: Encoding,
    brief: Brief,
    fileId: string,
    { clipping }: Choices,
    wantedTags: Tags | undefined,
  ): Judged | null {
    if (!verification) return null;
    const byBrief = verdicts.get(verification) ?? new WeakMap<Brief, Map<string, Judged>>();
    verdicts.set(verification, byBrief);
    const byFile = byBrief.get(brief) ?? new Map<string, Judged>();
    byBrief.set(brief, byFile);
    const key = JSON.stringify([fileId, clipping, wantedTags]);
    const verdict =
      byFile.get(key) ??
      checkFinished({ ...finishedFacts(verification), wantedTags }, brief, fileId, clipping);
    byFile.set(key, verdict);
    return verdict;
  }

  /** The assignments of a project, or of some of its sounds, with the sounds that have been read. */
  function assigned(projectId: number, soundIds?: readonly number[]) {
    const assignments = soundIds
      ? db.packs.assignmentsOf(soundIds)
      : db.packs.assignments(projectId);
    // Asked for once each, however many destinations it goes to.
    const sounds = new Map<number, Sound | undefined>();
    return assignments.flatMap((assignment) => {
      const { soundId } = assignment;
      if (!sounds.has(soundId)) sounds.set(soundId, db.sounds.byId(soundId));
      const sound = sounds.get(soundId);
      return sound?.facts && sound.projectId === projectId ? [{ assignment, sound }] : [];
    });
  }

  type Assigned = ReturnType<typeof assigned>[number];

  /** Each assignment with what it needs and the newest encoding of each of its files. */
  function* looked(entries: readonly Assigned[]) {
    const ids = entries.map(({ assignment }) => assignment.id);
    const rows = groupBy(db.packs.latestOutputs(ids), (row) => row.assignmentId);
    for (const { assignment, sound } of entries) {
      const brief = storedBrief(briefs(sound.projectId), assignment.briefId);
      const need = keyedNeed(sound, assignment);
      const made = (rows.get(assignment.id) ?? []).map((row) =>
        madeOf(row, brief, need, assignment.choices),
      );
      const obstacle = obstacleOf({ assignment, sound, brief, need });
      yield { assignment, sound, brief, need: { ...need, obstacle }, made };
    }
  }

  function madeOf(row: OutputRow, brief: Brief, need: KeyedNeed, choices: Choices) {
    const encoding = db.encodings.byId(row.encodingId)!;
    const tags = need.files.find(({ file }) => file.id === row.fileId)?.tags;
    return {
      row,
      encoding,
      upToDate: encoding.key === need.keys.get(row.fileId),
      verdict: verdictOf(encoding, brief, row.fileId, choices, tags),
    };
  }

  /** What goes where, in short: of all sounds of a project, or of some. */
  function cells(projectId: number, soundIds?: readonly number[]): Cell[] {
    const told = db.rehearsals.told(projectId);
    return [...looked(assigned(projectId, soundIds))].map(({ assignment, brief, need, made }) => {
      const { id, soundId, briefId } = assignment;
      const current = made.filter(({ upToDate }) => upToDate);
      const done = current.filter(({ verdict }) => verdict?.accepted);
      const finished = done.length;
      const bytes = done.reduce(
        (sum, { encoding }) => sum + (encoding.verification?.facts.bytes ?? 0),
        0,
      );
      const missing = brief.files.length - finished;
      const clips =
        isClipping(need.findings) ||
        current.some(({ verdict }) => verdict && isClipping(verdict.findings));
      const state = stateOf(need, made, missing);
      const rehearsed = rehearsedAs(told.get(id), brief, done);
      return { id, soundId, briefId, finished, missing, bytes, clips, rehearsed, state };
    });
  }

  /** The names that the files of a project have in its packs, by `placeKey`. */
  function names(projectId: number): ReadonlyMap<string, GivenName> {
    const revision = db.sounds.revision();
    const catalogue = briefs(projectId);
    const isKnown =
      named?.projectId === projectId &&
      named.revision === revision &&
      named.catalogue.every((brief, i) => brief === catalogue[i]);
    if (named && isKnown) return named.names;
    const placed = assigned(projectId).map(({ assignment, sound }) => ({
      assignment,
      sound,
      need: keyedNeed(sound, assignment),
    }));
    const found = namesOf(projectId, placed, briefs);
    named = { projectId, revision, catalogue, names: found };
    return found;
  }
  let named: {
    projectId: number;
    revision: number;
    catalogue: readonly Brief[];
    names: ReadonlyMap<string, GivenName>;
  } | null = null;

  /** What finished files of a project came to a second, by what makes them alike. */
  function neighbours(projectId: number): ReadonlyMap<string, number[]> {
    const written = db.written();
    if (known?.projectId === projectId && known.written === written) return known.sizes;
    const sizes = new Map<string, number[]>();
    for (const { need, made } of looked(assigned(projectId).slice(0, MOST_NEIGHBOURS))) {
      for (const { row, upToDate, encoding } of made) {
        const needed = need.files.find(({ file }) => file.id === row.fileId);
        const facts = encoding.verification?.facts;
        if (!needed || !upToDate || !facts) continue;
        const key = sizeKey(needed);
        sizes.set(key, [...(sizes.get(key) ?? []), facts.bytes / facts.seconds]);
      }
    }
    known = { projectId, written, sizes };
    return sizes;
  }
  let known: { projectId: number; written: number; sizes: Map<string, number[]> } | null = null;

  /** Why it cannot be built: as itself, or because others at its destination are called the same. */
  function obstacleOf({ assignment, sound, brief, need }: Assigned & { brief: Brief; need: Need }) {
    if (need.obstacle || brief.names?.meeting !== 'refuse') return need.obstacle;
    const all = names(sound.projectId);
    const given = brief.files.map(({ id }) => all.get(placeKey(assignment, id)));
    const meeting = given.find((one) => one?.meets);
    return meeting ? errorFacts(namesMeet(meeting.path)) : null;
  }

  /** What goes where, with everything that Pack shows of it: of all sounds of a project, or of some assignments. */
  function lines(projectId: number, assignmentIds?: ReadonlySet<number>): PackLine[] {
    const chosen = assigned(projectId).filter(
      ({ assignment }) => assignmentIds?.has(assignment.id) ?? true,
    );
    return linesOf(projectId, chosen);
  }

  function linesOf(projectId: number, entries: readonly Assigned[]): PackLine[] {
    const all = names(projectId);
    const sizes = neighbours(projectId);
    const given = (assignment: Assignment, fileId: string) =>
      all.get(placeKey(assignment, fileId)) ?? { name: fileId, path: fileId, paths: [fileId] };
    return [...looked(entries)].map(({ assignment, sound, need, made }) => ({
      assignment,
      findings: need.findings,
      plans: need.files.map((needed): PlannedFile => {
        const { file, steps, plan, shape } = needed;
        return {
          fileId: file.id,
          steps,
          path: given(assignment, file.id).path,
          isCopy: plan.isCopy,
          writer: plan.writer,
          settings: plan.settings,
          rateHz: shape.rateHz,
          channels: shape.channelCount,
          seconds: shape.frames / shape.rateHz,
          losses: sound.facts
            ? lossesOf(sound.facts, needed, db.sources.spectrumOf(sound.sourceSha256))
            : [],
          expected: expectedBytes(needed, sound.bytes, sizes.get(sizeKey(needed)) ?? []),
        };
      }),
      obstacle: need.obstacle,
      outputs: made.map(({ row, encoding, upToDate, verdict }): Output => {
        const { id, assignmentId, fileId, encodingId } = row;
        const { state, error, sha256, verification, warnings } = encoding;
        const { name, path, paths } = given(assignment, fileId);
        const known = { id, assignmentId, fileId, encodingId, name, path, paths };
        const changed = need.files.find(({ file }) => file.id === fileId)?.changedLevel;
        const remark = changed && verification && levelRemark(changed, verification);
        return {
          ...known,
          state,
          error,
          upToDate,
          sha256,
          verification,
          verdict,
          // The remark says why as well.
          warnings: remark ? warnings.filter(({ code }) => code !== 'level-missed') : warnings,
          remark: remark ?? null,
        };
      }),
    }));
  }

  /**
   * Works out beforehand what the cells of a project need, a few at a time, so that its first page has not to wait.
   * @param rest Is waited for in between; false ends it.
   */
  async function warmUp(projectId: number, rest: () => Promise<boolean>): Promise<void> {
    const bySound = groupBy(db.packs.assignments(projectId), ({ soundId }) => soundId);
    let since = 0;
    for (const [soundId, assignments] of bySound) {
      const sound = db.sounds.byId(soundId);
      if (sound?.facts) for (const assignment of assignments) keyedNeed(sound, assignment);
      since += assignments.length;
      if (since < CELLS_AT_ONCE) continue;
      since = 0;
      if (!(await rest())) return;
    }
  }

  /** What goes to some destinations, with the newest file of each kind and where it lies. */
  function* made(projectId: number, briefIds: ReadonlySet<string>) {
    const all = names(projectId);
    const chosen = assigned(projectId).filter(({ assignment }) => briefIds.has(assignment.briefId));
    for (const one of looked(chosen)) {
      const places = new Map(
        one.brief.files.map(({ id }) => [id, all.get(placeKey(one.assignment, id))]),
      );
      yield { ...one, places };
    }
  }

  return {
    warmUp,
    cells,
    made,
    lines,
    /** The same for what hangs on some sounds. */
    linesOfSounds: (projectId: number, soundIds: readonly number[]) =>
      linesOf(projectId, assigned(projectId, soundIds)),
    /** What can be built now: plans by assignment, with the names of their files. */
    needs(projectId: number) {
      const all = names(projectId);
      return assigned(projectId).map(({ assignment, sound }) => {
        const brief = storedBrief(briefs(projectId), assignment.briefId);
        const need = keyedNeed(sound, assignment);
        const obstacle = obstacleOf({ assignment, sound, brief, need });
        const paths = new Map(
          brief.files.map(({ id }) => [id, all.get(placeKey(assignment, id))?.paths ?? [id]]),
        );
        return { assignment, sound, brief, ...need, obstacle, paths };
      });
    },
  };
}

export type CellService = ReturnType<typeof cellService>;

/** A joined sound whose parts have changed is not what it will be. */
function notReady({ name, error }: Sound): BijouError {
  return error
    ? fromErrorFacts(error)
    : new BijouError(
        'not-allowed',
        `“${name}” is being put together.`,
        'Wait a moment, then try again.',
      );
}
