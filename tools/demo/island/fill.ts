import { openBijou } from '@/server/bijou';
import { resolve } from 'node:path';
import { islandFile } from '.';

/** Files that are announced and sent together. */
const AT_ONCE = 250;

/**
 * Adds the project "The whole island" with so many sounds to a data folder, through the same intake as a
 * page uses. Answers its id and how long bringing in and reading took, in seconds.
 */
export async function fillIsland(
  dataDir: string,
  sounds: number,
): Promise<{ projectId: number; seconds: number }> {
  const bijou = await openBijou(dataDir, { worker: resolve('dist/worker.mjs') });
  try {
    const projectId = bijou.projects.add('The whole island');
    let seconds = 0;
    for (let from = 0; from < sounds; from += AT_ONCE) {
      const numbers = Array.from({ length: Math.min(AT_ONCE, sounds - from) }, (_, i) => from + i);
      const files = await Promise.all(numbers.map(islandFile));
      const began = performance.now();
      const announced = bijou.intakes.begin(
        projectId,
        files.map(({ path, bytes }) => ({ path, bytes: bytes.length })),
      );
      for (const [i, { id }] of announced.entries()) {
        const { bytes } = files[i]!;
        await bijou.intakes.receive(id, piece(bytes), bytes.length);
      }
      await bijou.jobs.idle();
      seconds += (performance.now() - began) / 1000;
    }
    const ids = bijou.sounds.ofProject(projectId).map(({ id }) => id);
    // A third of them goes somewhere, as in a project that has been worked on.
    for (const id of ids.filter((_, i) => i % 3 === 0)) {
      bijou.packs.assign(bijou.sounds.byId(id), 'web-page', {});
    }
    await bijou.intakes.dismiss(projectId);
    return { projectId, seconds };
  } finally {
    await bijou.close();
  }
}

async function* piece(bytes: Uint8Array): AsyncGenerator<Uint8Array> {
  yield bytes;
}
