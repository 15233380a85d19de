import { createHash } from 'node:crypto';
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
  const update = db.prepare<[string, number, string]>(
    'UPDATE ownBriefs SET brief = ? WHERE projectId = ? AND id = ?',
  );
  const copy = db.prepare<[number, number]>(
    'INSERT INTO ownBriefs SELECT ?, id, brief FROM ownBriefs WHERE projectId = ?',
  );
  // Asked for with every line: a brief is the same object until something about them is written.
  const known = new Map<number, { briefs: Brief[]; version: string }>();
  function readBriefs(projectId: number) {
    const texts = ofProject.all(projectId);
    return {
      briefs: texts.map((text) => completeBrief(JSON.parse(text) as BriefText)),
      version: createHash('sha256').update(texts.join('\n')).digest('base64url'),
    };
  }
  function knownOf(projectId: number) {
    const found = known.get(projectId) ?? readBriefs(projectId);
    known.set(projectId, found);
    return found;
  }
  return {
    of: (projectId: number): readonly Brief[] => knownOf(projectId).briefs,
    /** Another one after every change of them. */
    version: (projectId: number): string => knownOf(projectId).version,
    add(projectId: number, brief: BriefText): void {
      insert.run(projectId, brief.id, JSON.stringify(brief));
      known.delete(projectId);
    },
    /** Another text for a brief that is there. */
    replace(projectId: number, brief: BriefText): void {
      update.run(JSON.stringify(brief), projectId, brief.id);
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
