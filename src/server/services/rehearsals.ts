import { createHash } from 'node:crypto';
import { BijouError, errorFacts, type ErrorFacts } from '@/core/errors';
import { storedBrief } from '@/core/brief/catalogue';
import type { Check } from '@/core/host/checks';
import type { Rehearsal } from '@/core/host/kind';
import { groupBy } from '@/core/group';
import type { RehearsalSummary } from '@/wire';
import type { Context } from '../context';
import type { PlannedEntry } from '../work/planPack';
import type { RunOptions } from '../work/pool';
import { filesKey, rehearsedBy } from './cellStates';
import type { OutlineInput } from '../work/partFiles';
import type { OutlineService } from './outlines';

/** Has hosts look at what was built for them, at the end of each build. */
export function rehearsalService(
  { db, store, briefs, pool, pump }: Context,
  { inputs, plan }: OutlineService,
) {
  /** Goes on with destinations whose files were still being made, once these are there or have failed. */
  function follow(projectId: number): void {
    const due = db.rehearsals.of(projectId).filter(({ state }) => state === 'due');
    for (const { id, briefId } of due) {
      if (db.cells.isOpen(projectId, [briefId])) continue;
      db.transaction(() => {
        db.rehearsals.setState(id, 'checking');
        // One that is at work on what was built before finds that out at its end, and begins anew.
        if (!db.jobs.isOpen('rehearse', id)) db.jobs.add(projectId, 'rehearse', id);
      });
      pump();
    }
  }

  /** What its host is shown, as it is now; null while that is being made. */
  function basisOf(id: number): string | null {
    const row = db.rehearsals.byId(id);
    if (row?.state !== 'checking') return null;
    const { projectId, briefId } = row;
    const { version } = storedBrief(briefs(projectId), briefId);
    const shown = [
      version,
      db.packSettings.of(projectId, briefId),
      db.cellFiles.shown(projectId, briefId),
    ];
    return createHash('sha256').update(JSON.stringify(shown)).digest('base64url');
  }

  /** Brings a destination's pack, as it would be now, to its host. Answers what writes down what that said. */
  async function run(id: number, options: RunOptions): Promise<() => void> {
    const row = db.rehearsals.byId(id);
    if (!row) return () => undefined;
    const { projectId, briefId } = row;
    const { host: hostId, title } = storedBrief(briefs(projectId), briefId);
    if (hostId === undefined) throw noHost(title);
    const [input] = inputs(projectId, [briefId]);
    const { entries } = await plan([input!], { ...options, withContent: true });
    const result = await pool().run(
      {
        kind: 'rehearse',
        hostId,
        name: title,
        files: entries.map(({ path, content, sha256 }) => ({
          path,
          content: content ?? store.path(sha256),
        })),
      },
      options,
    );
    return () => finish(id, projectId, briefId, input!, entries, result);
  }

  function finish(
    id: number,
    projectId: number,
    briefId: string,
    input: OutlineInput,
    entries: readonly PlannedEntry[],
    { host, hostVersion, accepted, checks }: Rehearsal,
  ): void {
    const refused = checks.filter(({ verdict }) => verdict === 'refused');
    const [first] = refused;
    db.rehearsals.finish(id, {
      ...{ host, hostVersion, accepted },
      refused: refused.length,
      first: first ? sentenceOf(first) : null,
      at: new Date().toISOString(),
    });
    const sounds = new Map(entries.map(({ path, soundId }) => [path, soundId]));
    const refusals = groupBy(refused, ({ file }) => sounds.get(file) ?? null);
    const assignments = new Map(
      db.packs
        .assignmentsById(db.cells.ofBrief(projectId, briefId))
        .map((one) => [one.soundId, one.id]),
    );
    for (const [soundId, own] of groupBy(input.files, (file) => file.soundId)) {
      const assignmentId = assignments.get(soundId);
      const made = own.flatMap((file) => ('reason' in file.made ? [] : [file.made.sha256]));
      if (assignmentId === undefined || made.length < own.length) continue;
      const refusal = refusals.get(soundId)?.[0];
      db.rehearsals.tell({
        assignmentId,
        host: rehearsedBy(host, hostVersion),
        files: filesKey(made),
        refusal: refusal ? sentenceOf(refusal) : null,
      });
    }
  }

  function failed(id: number, error: ErrorFacts): void {
    db.rehearsals.setState(id, 'failed', error);
  }

  return {
    follow,
    basisOf,
    run,
    failed,
    cancelled: (id: number) => failed(id, errorFacts(cancelled())),
    /** What hosts said of what was built last, by destination. */
    of: (projectId: number): RehearsalSummary[] =>
      db.rehearsals
        .of(projectId)
        .map(({ briefId, state, error, said }) => ({ briefId, state, error, said })),
  };
}

export type RehearsalService = ReturnType<typeof rehearsalService>;

function sentenceOf({ file, found, asked }: Check): string {
  return `${file}: ${found}; asked: ${asked}.`;
}

function noHost(title: string): BijouError {
  return new BijouError('not-allowed', `“${title}” names no host any more.`, 'See its brief.');
}

function cancelled(): BijouError {
  return new BijouError('cancelled', 'It was cancelled.', 'Build again, or bring the pack there.');
}
