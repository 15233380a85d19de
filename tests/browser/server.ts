import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { once } from 'node:events';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { freePort, start } from '../../scripts/setUp.mjs';
import { DEMO_DATA } from '../demoData';

/** Where servers of tests listen; each looks for a free port from its own on. */
const FIRST_PORT = 4_390;

/** The built application over a copy of the demo data of its own. */
export async function serverOfWorker(worker: number) {
  const dataDir = mkdtempSync(join(tmpdir(), 'bijou-browser-'));
  cpSync(DEMO_DATA, dataDir, { recursive: true });
  const { server, address } = await start({
    port: await freePort(FIRST_PORT + worker * 20),
    dataDir,
  });
  return {
    address,
    async end(): Promise<void> {
      const ended = once(server, 'exit');
      server.kill('SIGTERM');
      await ended;
      rmSync(dataDir, { recursive: true, force: true });
    },
  };
}
