import { completeBrief } from '@/core/brief/complete';
import type { Brief, BriefText } from '@/core/brief/schema';
import type { Db } from './open';

/** Statements on the briefs that people keep in a project. */
export function ownBriefStatements(db: Db) {
  const ofProject = db
    .prepare<[number], string>('SELECT brief FROM ownBriefs WHERE projectId = ? ORDER BY rowid')
    .pluck();
  const insert = db.prepare<[number, string, string]>(
    'INSERT INTO ownBriefs (projectId, id, brief) VALUES (?, ?, ?)',
  );
  const forget = db.prepare<[number, string]>(
    'DELETE FROM ownBriefs WHERE projectId = ? AND id = ?',
  );
  const copy = db.prepare<[number, number]>(
    'INSERT INTO ownBriefs SELECT ?, id, brief FROM ownBriefs WHERE projectId = ?',
  );
  // Asked for with every line: a brief is the same object until something about them is written.
  const known = new Map<number, Brief[]>();
  return {
    of(projectId: number): Brief[] {
      const found =
        known.get(projectId) ??
        ofProject.all(projectId).map((text) => completeBrief(JSON.parse(text) as BriefText));
      known.set(projectId, found);
      return found;
    },
    add(projectId: number, brief: BriefText): void {
      insert.run(projectId, brief.id, JSON.stringify(brief));
      known.delete(projectId);
    },
    forget(projectId: number, id: string): boolean {
      known.delete(projectId);
      return forget.run(projectId, id).changes > 0;
    },
    copy(from: number, to: number): void {
      copy.run(to, from);
      known.delete(to);
    },
  };
}
