import type { RawDescription } from '@/core/formats/raw/reader';
import type { Warning } from '@/core/formats/types';
import type { Facts } from '@/core/measure/probe';
import type { Db } from './open';

/** Statements on the bytes that came in, and what is known of them. */
export function sourceStatements(db: Db) {
  const add = db.prepare<[string, number, string | null]>(
    // Bytes that could not be read may come again with a description.
    `INSERT INTO sources (sha256, bytes, raw) VALUES (?, ?, ?)
     ON CONFLICT DO UPDATE SET raw = excluded.raw WHERE facts IS NULL`,
  );
  const setFacts = db.prepare<[string, string, string, string, string]>(
    'UPDATE sources SET facts = ?, spectrum = ?, warnings = ?, thumbnail = ? WHERE sha256 = ?',
  );
  const pick = <T>(column: string) =>
    db.prepare<[string], T>(`SELECT ${column} FROM sources WHERE sha256 = ?`).pluck();
  const facts = pick<string | null>('facts');
  const raw = pick<string | null>('raw');
  const spectrum = pick<string | null>('spectrum');
  const frames = pick<number | null>(`json_extract(facts, '$.frames')`);
  const users = db
    .prepare<[string], number>(
      `SELECT count(*) FROM sounds WHERE sourceSha256 = ? AND state <> 'refused'`,
    )
    .pluck();
  // What another project's history may bring back is still needed.
  const spare = db.prepare<
    [{ projectId: number }],
    { sha256: string; bytes: number; isReplaced: 0 | 1 }
  >(
    `SELECT sha256, bytes, sha256 NOT IN (SELECT sourceSha256 FROM sounds) AS isReplaced FROM sources
     WHERE facts IS NOT NULL
       AND sha256 NOT IN (
         SELECT sourceSha256 FROM sounds WHERE NOT (projectId = @projectId AND removedAt IS NOT NULL))
       AND sha256 NOT IN (
         SELECT json_extract(kept.value, '$.sourceSha256')
         FROM changedSounds JOIN changes ON changes.id = changeId,
           json_each(json_array(json(before), json(after))) AS kept
         WHERE projectId <> @projectId AND json_extract(kept.value, '$.sourceSha256') IS NOT NULL)`,
  );
  const unused = db
    .prepare<[{ sha256: string }], 0 | 1>(
      `SELECT NOT EXISTS (
         SELECT 1 FROM changedSounds CROSS JOIN json_each(json_array(json(before), json(after))) AS kept
         WHERE json_extract(kept.value, '$.sourceSha256') = @sha256)
       AND @sha256 NOT IN (SELECT sourceSha256 FROM sounds)`,
    )
    .pluck();
  const forget = db.prepare<[string]>('DELETE FROM sources WHERE sha256 = ?');
  return {
    add: (sha256: string, bytes: number, description: RawDescription | null) =>
      void add.run(sha256, bytes, description && JSON.stringify(description)),
    isRead: (sha256: string) => facts.get(sha256) != null,
    setFacts: (
      sha256: string,
      { spectrum: picture, ...listed }: Facts,
      warnings: Warning[],
      thumbnail: string,
    ) =>
      void setFacts.run(
        JSON.stringify(listed),
        JSON.stringify(picture),
        JSON.stringify(warnings),
        thumbnail,
        sha256,
      ),
    /** How the bytes are read, whoever they belong to. */
    rawOf: (sha256: string) => {
      const description = raw.get(sha256);
      return description ? (JSON.parse(description) as RawDescription) : null;
    },
    spectrumOf: (sha256: string) => JSON.parse(spectrum.get(sha256) ?? 'null') as Facts['spectrum'],
    /** Its length as it was counted; null for bytes that are nobody's source. */
    framesOf: (sha256: string) => frames.get(sha256) ?? null,
    /** How many sounds of any project, removed ones too, still need this source. */
    usersOf: (sha256: string) => users.get(sha256) ?? 0,
    /** Sources that only removed sounds of a project have, or only its history. */
    spare: (projectId: number) => spare.all({ projectId }),
    /** Whether no sound has it, and no history leads back to it. */
    isUnused: (sha256: string) => unused.get({ sha256 }) === 1,
    forget: (sha256: string) => void forget.run(sha256),
  };
}
