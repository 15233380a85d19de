import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { resolve } from 'node:path';
import { openBijou } from '@/server/bijou';
import { randomOf } from '../fuzz/mutate';
import { faultsOf } from './verify';

/** Longest time that somebody works before the plug is pulled. */
const MOST_MS = 2_500;

/**
 * Has somebody work in a data folder, kills them at a random moment, starts anew and looks what is wrong:
 * `count` times over in the same folder. Answers the faults, with the round in which they were found.
 */
export async function killedRounds(
  dataDir: string,
  count: number,
  seed: number,
  tell: (round: number, sounds: number) => void = () => undefined,
): Promise<string[]> {
  const random = randomOf(seed);
  const faults: string[] = [];
  for (let round = 1; round <= count; round++) {
    const worker = spawn(
      process.execPath,
      [resolve('dist/killed.mjs'), dataDir, String(seed * 1_000 + round)],
      { stdio: ['ignore', 'pipe', 'inherit'] },
    );
    // Also while it starts: but mostly while it works.
    if (random() < 0.9) await Promise.race([once(worker.stdout, 'data'), once(worker, 'exit')]);
    await new Promise((resume) => setTimeout(resume, random() * MOST_MS));
    if (worker.exitCode !== null) faults.push(`round ${round}: it ended by itself`);
    worker.kill('SIGKILL');
    if (worker.exitCode === null && worker.signalCode === null) await once(worker, 'exit');
    const bijou = await openBijou(dataDir, { worker: resolve('dist/worker.mjs') });
    try {
      await bijou.jobs.idle();
      const found = await faultsOf(bijou, dataDir);
      faults.push(...found.map((fault) => `round ${round}: ${fault}`));
      const [project] = bijou.projects.all();
      tell(round, project ? bijou.sounds.ofProject(project.id).length : 0);
    } finally {
      await bijou.close();
    }
  }
  return faults;
}
