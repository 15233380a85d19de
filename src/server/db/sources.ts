import type { RawDescription } from '@/core/formats/raw/reader';
import type { Warning } from '@/core/formats/types';
import type { Facts, ListedFacts } from '@/core/measure/probe';
import type { Loop, Marks } from '@/core/marks';
import { shapeOf, type Shape } from '@/core/recipe/types';
import type { Db } from './open';

/** Statements on the bytes that came in, and what is known of them. */
export function sourceStatements(db: Db) {
  const add = db.prepare<[string, number, string | null]>(
    'INSERT INTO sources (sha256, bytes, raw) VALUES (?, ?, ?) ON CONFLICT DO NOTHING',
  );
  const setFacts = db.prepare<[string, string, string, string, string]>(
    'UPDATE sources SET facts = ?, spectrum = ?, warnings = ?, thumbnail = ? WHERE sha256 = ?',
  );
  const pick = <T>(column: string) =>
    db.prepare<[string], T>(`SELECT ${column} FROM sources WHERE sha256 = ?`).pluck();
  const facts = pick<string | null>('facts');
  // A finished file may be looked at like a source.
  const raw = db
    .prepare<[string, string], string | null>(
      `SELECT coalesce((SELECT raw FROM sources WHERE sha256 = ?),
         (SELECT raw FROM encodings WHERE sha256 = ? AND raw IS NOT NULL))`,
    )
    .pluck();
  const thumbnails = db.prepare<[number, string], { id: number; thumbnail: string | null }>(
    `SELECT sounds.id, thumbnail FROM sounds JOIN sources ON sources.sha256 = sourceSha256
     WHERE projectId = ? AND sounds.id IN (SELECT value FROM json_each(?))`,
  );
  const spectrum = pick<string | null>('spectrum');
  const extent = db.prepare<
    [string],
    { frames: number | null; rateHz: number | null; loop: string | null }
  >(
    `SELECT json_extract(facts, '$.frames') AS frames, json_extract(facts, '$.sampleRateHz') AS rateHz,
       json_extract(facts, '$.loop') AS loop
     FROM sources WHERE sha256 = ?`,
  );
  const forget = db.prepare<[string]>(
    `DELETE FROM sources WHERE sha256 = ?
       AND NOT EXISTS (SELECT 1 FROM sounds WHERE sourceSha256 = sources.sha256)`,
  );
  const loose = db
    .prepare<[], string>(
      'SELECT sha256 FROM sources WHERE sha256 NOT IN (SELECT sourceSha256 FROM sounds)',
    )
    .pluck();
  const factsOf = (sha256: string): ListedFacts | null =>
    JSON.parse(facts.get(sha256) ?? 'null') as ListedFacts | null;
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
      const description = raw.get(sha256, sha256);
      return description ? (JSON.parse(description) as RawDescription) : null;
    },
    spectrumOf: (sha256: string) => JSON.parse(spectrum.get(sha256) ?? 'null') as Facts['spectrum'],
    /** The small pictures of some sounds of a project, by sound. */
    thumbnails: (projectId: number, soundIds: readonly number[]) =>
      thumbnails.all(projectId, JSON.stringify(soundIds)),
    /** What was found in it; null for bytes that have not been read, or are not there any more. */
    factsOf,
    /** What stands beside its samples; null likewise. */
    marksOf: (sha256: string): Marks | null => {
      const found = factsOf(sha256);
      return found && { tags: found.tags, loop: found.loop, markers: found.markers };
    },
    /** Its shape; null likewise. */
    shapeOf: (sha256: string): Shape | null => {
      const found = factsOf(sha256);
      return found && shapeOf(found);
    },
    /** Its length as it was counted, and its loop; nulls for bytes that are nobody's source. */
    extentOf: (sha256: string) => {
      const found = extent.get(sha256);
      if (!found) return { frames: null, rateHz: null, loop: null };
      return { ...found, loop: found.loop === null ? null : (JSON.parse(found.loop) as Loop) };
    },
    /** Those that no sound has: the history may still lead back to them. */
    loose: () => loose.all(),
    /** Forgets what is known of bytes that are gone, unless a sound that was refused still names them. */
    forget: (sha256: string) => void forget.run(sha256),
  };
}
