import type { Db } from './open';

/**
 * Everything that can still need a stored file: who holds it, and the hashes that it holds. This is the one
 * answer to "may these bytes go?"; whatever else comes to need stored files gets a line here.
 */
const holders: Record<string, string> = {
  // Taken out or not, and undecided replacements too. What was refused holds nothing.
  sounds: `SELECT sourceSha256 AS sha256 FROM sounds WHERE state <> 'refused'`,
  // Whatever undo or redo can bring back.
  'the past': `SELECT before ->> '$.sourceSha256' FROM changedSounds
    WHERE before ->> '$.sourceSha256' IS NOT NULL`,
  'the future': `SELECT after ->> '$.sourceSha256' FROM changedSounds
    WHERE after ->> '$.sourceSha256' IS NOT NULL`,
  'finished files': 'SELECT sha256 FROM encodings WHERE sha256 IS NOT NULL',
  'sources of files to be made': `SELECT plan ->> '$.sourceSha256' FROM encodings
    WHERE state IN ('queued', 'running') AND plan ->> '$.sourceSha256' IS NOT NULL`,
  packs: 'SELECT sha256 FROM packedFiles',
  'icons that were given': `SELECT settings ->> '$.icon.sha256' FROM packSettings
    WHERE settings ->> '$.icon.sha256' IS NOT NULL`,
  'icons of the past and the future': `SELECT json_extract(value, '$.icon.sha256') FROM changedPackSettings,
    json_each(json_array(json(before), json(after))) WHERE json_extract(value, '$.icon.sha256') IS NOT NULL`,
  'archives to unpack': `SELECT archiveSha256 FROM arrivals
    WHERE archiveSha256 IS NOT NULL AND state IN ('unpacking', 'offered')`,
};
const HELD = Object.values(holders).join('\nUNION ALL ');

/** Which stored files are needed, and those that were found not to be and are to go. */
export function retentionStatements(db: Db) {
  const isHeld = db
    .prepare<[string], 0 | 1>(`SELECT EXISTS (SELECT 1 FROM (${HELD}) WHERE sha256 = ?)`)
    .pluck();
  const held = db.prepare<[], string>(`SELECT DISTINCT sha256 FROM (${HELD})`).pluck();
  const ask = db.prepare<[string]>('INSERT OR IGNORE INTO deletions VALUES (?)');
  const asked = db.prepare<[], string>('SELECT sha256 FROM deletions').pluck();
  const settle = db.prepare<[string]>('DELETE FROM deletions WHERE sha256 = ?');
  return {
    isHeld: (sha256: string) => isHeld.get(sha256) === 1,
    /** Every stored file that something needs. */
    held: () => new Set(held.all()),
    /** Puts a file on the list of those that may have to go. */
    ask: (sha256: string) => void ask.run(sha256),
    asked: () => asked.all(),
    /** Takes it off the list, gone or not. */
    settle: (sha256: string) => void settle.run(sha256),
  };
}
