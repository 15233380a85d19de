import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { isDeepStrictEqual } from 'node:util';
import type { Bijou } from '@/server/bijou';
import { sha256OfFile } from '@/server/files/store';
import { openForReading } from '@/server/readOnly';

/** Behind this, what was brought in before may have been decided about, or cleaned up. */
export const LET_GO = 'let go';

/** What is wrong with a data folder after the plug was pulled and everything left was done; nothing is best. */
export async function faultsOf(bijou: Bijou, dataDir: string): Promise<string[]> {
  const faults: string[] = [];
  const check = async (what: string, sha256: string) => {
    const path = bijou.store.path(sha256);
    if (!existsSync(path)) faults.push(`${what} has lost its file`);
    else if ((await sha256OfFile(path)) !== sha256) faults.push(`${what} has another file`);
  };
  const reader = openForReading(dataDir);
  for (const { id, name } of bijou.projects.all()) {
    // Rows say what everything worked out anew would.
    const rows = bijou.packs.cells(id).map(({ revision, ...cell }) => (void revision, cell));
    if (!isDeepStrictEqual(rows, reader.cells.cells(id))) faults.push(`${name} has other cells`);
    const sounds = () => bijou.sounds.ofProject(id).filter(({ state }) => state !== 'refused');
    const isOpen = bijou.jobs.open(id).length + bijou.projectState(id).work.length > 0;
    if (isOpen) faults.push(`${name} still has jobs`);
    for (const sound of sounds()) {
      // A join whose parts were taken out waits for somebody, and says so.
      if (sound.state === 'reading' && !sound.error) faults.push(`${sound.name} is being read`);
      if (sound.state === 'ready') await check(sound.name, sound.sourceSha256);
    }
    for (const { outputs } of bijou.packs.lines(id)) {
      for (const { name: file, state, sha256 } of outputs) {
        if (state === 'queued' || state === 'running') faults.push(`${file} is ${state}`);
        if (state === 'done' && sha256) await check(file, sha256);
        if (state === 'done' && !sha256) faults.push(`${file} is done and is nothing`);
      }
    }
    // Everything can be undone, step by step, and done again, and has its files at every step.
    let steps = 0;
    while (bijou.edits.undo(id) !== null) {
      steps++;
      for (const { name: sound, state, sourceSha256, join: joined } of sounds()) {
        if (state === 'ready' && !joined)
          await check(`${sound} before step ${steps}`, sourceSha256);
      }
    }
    for (; steps > 0; steps--) bijou.edits.redo(id);
    await bijou.jobs.idle();
  }
  reader.close();
  faults.push(...missing(bijou, dataDir));
  return faults;
}

/** What somebody was told to be done, and is not there. */
function missing(bijou: Bijou, dataDir: string): string[] {
  const path = join(dataDir, 'told.txt');
  if (!existsSync(path)) return [];
  const told = readFileSync(path, 'utf8').split('\n');
  const since = told.slice(told.lastIndexOf(LET_GO) + 1);
  return since.flatMap((line) => {
    const [kind, id] = line.split(' ');
    if (kind !== 'sound') return [];
    try {
      bijou.sounds.byId(Number(id));
      return [];
    } catch {
      return [`sound ${id} was brought in and is not there`];
    }
  });
}
