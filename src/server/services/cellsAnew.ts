import { cellState, inShort, isClipping, verdictInShort } from '@/core/brief/cell';
import type { GivenName } from '@/core/pack/naming';
import type { Assignment, Cell } from '@/wire';
import type { Context } from '../context';
import { rehearsedAs } from './cellStates';
import { lookingService, type Assigned, type Places } from './looking';
import { needService } from './needs';
import { namesOf, placeKey } from './placing';

/**
 * What goes where, worked out anew from everything without a look at rows: for a data folder that is only read, and to
 * hold the rows against.
 */
export function cellsAnewService(context: Pick<Context, 'db' | 'briefs'>) {
  const { db, briefs } = context;
  const needs = needService(context);
  const { withSounds, looked, needFor } = lookingService(context, needs);

  const assigned = (projectId: number) => withSounds(db.packs.assignments(projectId), projectId);

  function placesFor(projectId: number, entries: readonly Assigned[]): Places {
    const all = namesOf(
      projectId,
      entries.map((entry) => ({
        ...entry,
        need: needs.needOfAssigned(entry.sound, entry.assignment),
      })),
      briefs,
    );
    return (assignment, fileId) => all.get(placeKey(assignment, fileId));
  }

  /** Everything of a project with the newest of its files. */
  function* all(projectId: number) {
    const entries = assigned(projectId);
    const places = placesFor(projectId, entries);
    for (const one of looked(entries, places)) yield { ...one, places: placesIn(one, places) };
  }

  /** What goes to some destinations, likewise. */
  function* made(projectId: number, briefIds: ReadonlySet<string>) {
    for (const one of all(projectId)) if (briefIds.has(one.assignment.briefId)) yield one;
  }

  /** What can be built now: plans by assignment, with the names of their files. */
  function* needed(projectId: number) {
    const entries = assigned(projectId);
    const places = placesFor(projectId, entries);
    for (const entry of entries) {
      const { brief, need } = needFor(entry, places);
      const paths = new Map(
        brief.files.map(({ id }) => [id, places(entry.assignment, id)?.paths ?? [id]]),
      );
      yield { ...entry, brief, ...need, paths };
    }
  }

  /** What rows have to say, apart from their revisions. */
  function cells(projectId: number): Omit<Cell, 'revision'>[] {
    const told = db.rehearsals.told(projectId);
    return [...all(projectId)].map(({ assignment, brief, need, made: files }) => {
      const { id, soundId, briefId }: Assignment = assignment;
      const current = files.filter(({ upToDate }) => upToDate);
      const done = current.filter(({ verdict }) => verdict?.accepted);
      const missing = brief.files.length - done.length;
      const short = files.map(({ encoding: { state }, upToDate, verdict }) => ({
        ...{ state, upToDate },
        verdict: verdict && verdictInShort(verdict),
      }));
      const hashes = done.flatMap(({ encoding }) => encoding.sha256 ?? []);
      return {
        ...{ id, soundId, briefId, missing },
        state: cellState(inShort(need), short, missing),
        finished: done.length,
        bytes: done.reduce(
          (sum, { encoding }) => sum + (encoding.verification?.facts.bytes ?? 0),
          0,
        ),
        clips:
          isClipping(need.findings) ||
          current.some(({ verdict }) => verdict && isClipping(verdict.findings)),
        rehearsed: rehearsedAs(told.get(id), brief, hashes),
      };
    });
  }

  return { made, needs: (projectId: number) => [...needed(projectId)], cells };
}

function placesIn(
  {
    assignment,
    brief,
  }: Pick<Assigned, 'assignment'> & { brief: { files: readonly { id: string }[] } },
  places: Places,
): Map<string, Pick<GivenName, 'name' | 'path' | 'paths'> | undefined> {
  return new Map(brief.files.map(({ id }) => [id, places(assignment, id)]));
}
