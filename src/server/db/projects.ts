import type { Project, TableLayout } from '@/wire';
import type { Db } from './open';

const SELECT = 'SELECT id, name, createdAt FROM projects';

export function projectStatements(db: Db) {
  const insert = db.prepare<[string, string]>(
    'INSERT INTO projects (name, createdAt) VALUES (?, ?)',
  );
  const all = db.prepare<[], Project>(`${SELECT} ORDER BY id`);
  const byId = db.prepare<[number], Project>(`${SELECT} WHERE id = ?`);
  const layout = db
    .prepare<[number], string>('SELECT tableLayout FROM projects WHERE id = ?')
    .pluck();
  const setLayout = db.prepare<[string, number]>(
    'UPDATE projects SET tableLayout = ? WHERE id = ?',
  );
  return {
    add: (name: string) => Number(insert.run(name, new Date().toISOString()).lastInsertRowid),
    all: () => all.all(),
    byId: (id: number) => byId.get(id),
    layout: (id: number) => JSON.parse(layout.get(id) ?? '{}') as TableLayout,
    setLayout: (id: number, value: TableLayout) => void setLayout.run(JSON.stringify(value), id),
  };
}
