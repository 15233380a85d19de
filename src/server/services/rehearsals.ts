import { createHash } from 'node:crypto';
import { BijouError, errorFacts, type ErrorFacts } from '@/core/errors';
import { storedBrief } from '@/core/brief/catalogue';
import type { RehearsalSummary } from '@/wire';
import type { Context } from '../context';
import type { RunOptions } from '../work/pool';
import type { OutlineService } from './outlines';

/** Has hosts look at what was built for them, at the end of each build. */
export function rehearsalService({ db, briefs, pool, pump }: Context, { asked }: OutlineService) {
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

  /** What decides what its host is shown; null while that is being made. */
  function basisOf(id: number): string | null {
    const row = db.rehearsals.byId(id);
    if (row?.state !== 'checking') return null;
    const { projectId, briefId } = row;
    const { version } = storedBrief(briefs(projectId), briefId);
    const shown = [
      version,
      db.packSettings.of(projectId, briefId),
      db.cells.stampOf(projectId, briefId),
    ];
    return createHash('sha256').update(JSON.stringify(shown)).digest('base64url');
  }

  /** Brings a destination's pack, as it would be now, to its host. Answers what writes down what that said. */
  async function run(id: number, options: RunOptions): Promise<() => void> {
    const row = db.rehearsals.byId(id);
    if (!row) return () => undefined;
    const { projectId, briefId } = row;
    const brief = storedBrief(briefs(projectId), briefId);
    const { host: hostId, title } = brief;
    if (hostId === undefined) throw noHost(title);
    const files = db.cells.ofBrief(projectId, briefId).length * brief.files.length;
    const { said, told } = await asked(projectId, [briefId], (source) =>
      pool().run({ kind: 'rehearse', hostId, name: title, source, files }, options),
    );
    return () => {
      db.rehearsals.finish(id, { ...said, at: new Date().toISOString() });
      db.rehearsals.tell(told);
    };
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

function noHost(title: string): BijouError {
  return new BijouError('not-allowed', `“${title}” names no host any more.`, 'See its brief.');
}

function cancelled(): BijouError {
  return new BijouError('cancelled', 'It was cancelled.', 'Build again, or bring the pack there.');
}
