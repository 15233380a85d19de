import type { PackSettings } from '@/core/pack/settings';
import type { Db } from './open';

/** Statements on what was decided about the packs of destinations. */
export function packSettingStatements(db: Db) {
  const of = db
    .prepare<[number, string], string>(
      'SELECT settings FROM packSettings WHERE projectId = ? AND briefId = ?',
    )
    .pluck();
  const set = db.prepare<[number, string, string]>(
    `INSERT INTO packSettings VALUES (?, ?, ?)
     ON CONFLICT (projectId, briefId) DO UPDATE SET settings = excluded.settings`,
  );
  const all = db.prepare<[number], { briefId: string; settings: string }>(
    'SELECT briefId, settings FROM packSettings WHERE projectId = ?',
  );
  const icons = db
    .prepare<[{ projectId: number }], string>(
      `SELECT settings ->> '$.icon.sha256' AS sha256 FROM packSettings
         WHERE projectId = @projectId AND sha256 IS NOT NULL
       UNION SELECT json_extract(value, '$.icon.sha256') AS sha256 FROM changedPackSettings
         JOIN changes ON changes.id = changeId, json_each(json_array(json(before), json(after)))
         WHERE projectId = @projectId AND sha256 IS NOT NULL`,
    )
    .pluck();
  return {
    /** Every icon that was given in a project, now or in its history. */
    icons: (projectId: number) => icons.all({ projectId }),
    of: (projectId: number, briefId: string): PackSettings =>
      JSON.parse(of.get(projectId, briefId) ?? '{}') as PackSettings,
    set: (projectId: number, briefId: string, settings: PackSettings) =>
      void set.run(projectId, briefId, JSON.stringify(settings)),
    /** By brief. */
    all: (projectId: number): [briefId: string, settings: PackSettings][] =>
      all
        .all(projectId)
        .map(({ briefId, settings }) => [briefId, JSON.parse(settings) as PackSettings]),
  };
}
