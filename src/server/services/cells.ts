import { checkFinished } from '@/core/brief/check';
import { levelRemark } from '@/core/brief/levels';
import { needOf, type Need } from '@/core/brief/needs';
import { briefById, storedBrief } from '@/core/brief/catalogue';
import type { Choices } from '@/core/brief/choices';
import type { Brief } from '@/core/brief/schema';
import type { Finding } from '@/core/brief/types';
import { overDbOf } from '@/core/convert';
import { BijouError, errorFacts, fromErrorFacts } from '@/core/errors';
import { groupBy } from '@/core/group';
import { fileNames } from '@/core/pack/layout';
import type { Assignment, Cell, CellState, Output, PackLine, Sound, Verdict } from '@/wire';
import type { Context } from '../context';
import type { Encoding } from '../db/encodings';
import type { OutputRow } from '../db/packs';
import { encodingKey } from './encodings';

/** What an assignment needs, with the keys of its files. */
interface KeyedNeed extends Need {
  keys: Map<string, string>;
}

/** Looking at what goes where: what it needs, what has come of it, and what its brief says of that. */
export function cellService({ db, briefs }: Context) {
  // A sound is the same object until something of it changes: then it is planned anew.
  const needs = new WeakMap<Sound, Map<string, KeyedNeed>>();

  function keyedNeed(sound: Sound, { briefId, choices }: Assignment): KeyedNeed {
    const ofSound = needs.get(sound) ?? new Map<string, KeyedNeed>();
    needs.set(sound, ofSound);
    const key = JSON.stringify([briefId, choices]);
    const need = ofSound.get(key) ?? workedOut(sound, briefId, choices);
    ofSound.set(key, need);
    return need;
  }

  function workedOut(sound: Sound, briefId: string, choices: Assignment['choices']): KeyedNeed {
    try {
      const brief = briefById(briefs(sound.projectId), briefId);
      const { sourceSha256, facts, warnings, recipe, outcome } = sound;
      if (sound.state === 'reading' || sound.error || !facts) throw notReady(sound);
      const need = needOf({ sourceSha256, facts, warnings, recipe, outcome }, brief, choices);
      return {
        ...need,
        keys: new Map(need.files.map(({ file, plan }) => [file.id, encodingKey(plan)])),
      };
    } catch (error) {
      return { findings: [], files: [], obstacle: errorFacts(error), keys: new Map() };
    }
  }

  // What was measured on a finished file never changes, and what a brief says of it hardly ever.
  const verdicts = new WeakMap<object, WeakMap<Brief, Map<string, Verdict>>>();

  /** What a brief says of a finished file, from what was measured on it. */
  function verdictOf(
    { verification }: Encoding,
    brief: Brief,
    fileId: string,
    { clipping }: Choices,
  ): Verdict | null {
    if (!verification) return null;
    const byBrief = verdicts.get(verification) ?? new WeakMap<Brief, Map<string, Verdict>>();
    verdicts.set(verification, byBrief);
    const byFile = byBrief.get(brief) ?? new Map<string, Verdict>();
    byBrief.set(brief, byFile);
    const key = `${fileId} ${clipping}`;
    const facts = { ...verification.facts, overDb: overDbOf(verification) };
    const verdict = byFile.get(key) ?? checkFinished(facts, brief, fileId, clipping);
    byFile.set(key, verdict);
    return verdict;
  }

  /** The assignments of a project, or of some of its sounds, with the sounds that have been read. */
  function assigned(projectId: number, soundIds?: readonly number[]) {
    const assignments = soundIds
      ? db.packs.assignmentsOf(soundIds)
      : db.packs.assignments(projectId);
    return assignments.flatMap((assignment) => {
      const sound = db.sounds.byId(assignment.soundId);
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
      yield { assignment, sound, brief, need, made };
    }
  }

  function madeOf(row: OutputRow, brief: Brief, { keys }: KeyedNeed, choices: Choices) {
    const encoding = db.encodings.byId(row.encodingId)!;
    return {
      row,
      encoding,
      upToDate: encoding.key === keys.get(row.fileId),
      verdict: verdictOf(encoding, brief, row.fileId, choices),
    };
  }

  /** What goes where, in short: of all sounds of a project, or of some. */
  function cells(projectId: number, soundIds?: readonly number[]): Cell[] {
    return [...looked(assigned(projectId, soundIds))].map(({ assignment, brief, need, made }) => {
      const { id, soundId, briefId } = assignment;
      const current = made.filter(({ upToDate }) => upToDate);
      const finished = current.filter(({ verdict }) => verdict?.accepted).length;
      const missing = brief.files.length - finished;
      const clips =
        isUndecided(need.findings) ||
        current.some(({ verdict }) => verdict && isUndecided(verdict.findings));
      return { id, soundId, briefId, finished, missing, clips, state: stateOf() };

      function stateOf(): CellState {
        const has = (...states: Encoding['state'][]) =>
          current.some(({ encoding }) => states.includes(encoding.state));
        if (has('queued', 'running')) return 'working';
        if (need.obstacle || clips) return 'blocked';
        if (missing === 0) return 'built';
        return has('failed') || current.some(({ verdict }) => verdict?.accepted === false)
          ? 'failed'
          : 'due';
      }
    });
  }

  /** The names that the files of a project have in its packs, by assignment and file. */
  function names(projectId: number): ReadonlyMap<string, string> {
    const revision = db.sounds.revision();
    if (named?.projectId === projectId && named.revision === revision) return named.names;
    const files = assigned(projectId).flatMap(({ assignment, sound }) => {
      const { briefId } = assignment;
      return storedBrief(briefs(projectId), briefId).files.map(({ id, extension }) => ({
        key: `${assignment.id} ${id}`,
        briefId,
        extension,
        soundName: sound.name,
      }));
    });
    const given = fileNames(files);
    const found = new Map(files.map(({ key }, i) => [key, given[i]!]));
    named = { projectId, revision, names: found };
    return found;
  }
  let named: { projectId: number; revision: number; names: Map<string, string> } | null = null;

  /** What goes where, with everything that Pack shows of it: of all sounds of a project, or of some assignments. */
  function lines(projectId: number, assignmentIds?: ReadonlySet<number>): PackLine[] {
    const chosen = assigned(projectId).filter(
      ({ assignment }) => assignmentIds?.has(assignment.id) ?? true,
    );
    return linesOf(projectId, chosen);
  }

  function linesOf(projectId: number, entries: readonly Assigned[]): PackLine[] {
    return [...looked(entries)].map(({ assignment, need, made }) => ({
      assignment,
      findings: need.findings,
      plans: need.files.map(({ file, steps }) => ({ fileId: file.id, steps })),
      obstacle: need.obstacle,
      outputs: made.map(({ row, encoding, upToDate, verdict }): Output => {
        const { id, assignmentId, fileId, encodingId } = row;
        const { state, error, sha256, verification, warnings } = encoding;
        const name = names(projectId).get(`${assignmentId} ${fileId}`) ?? fileId;
        const known = { id, assignmentId, fileId, encodingId, name };
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
          warnings,
          remark: remark ?? null,
        };
      }),
    }));
  }

  return {
    cells,
    lines,
    /** The same for what hangs on some sounds. */
    linesOfSounds: (projectId: number, soundIds: readonly number[]) =>
      linesOf(projectId, assigned(projectId, soundIds)),
    /** What can be built now: plans by assignment. */
    needs: (projectId: number) =>
      assigned(projectId).map(({ assignment, sound }) => ({
        assignment,
        ...keyedNeed(sound, assignment),
      })),
  };
}

export type CellService = ReturnType<typeof cellService>;

function isUndecided(findings: readonly Finding[]): boolean {
  return findings.some(
    ({ requirement, verdict }) => requirement === 'full-scale' && verdict === 'decide',
  );
}

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
