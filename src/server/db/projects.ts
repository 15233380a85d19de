import type { Project } from '@/wire';
import type { Db } from './open';

export function projectStatements(db: Db) {
  const insert = db.prepare<[string, string]>(
    'INSERT INTO projects (name, createdAt) VALUES (?, ?)',
  );
  const all = db.prepare<[], Project>('SELECT * FROM projects ORDER BY id');
  const byId = db.prepare<[number], Project>('SELECT * FROM projects WHERE id = ?');
  return {
    add: (name: string) => Number(insert.run(name, new Date().toISOString()).lastInsertRowid),
    all: () => all.all(),
    byId: (id: number) => byId.get(id),
  };
}
