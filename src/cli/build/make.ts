import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { compare, convert, rawDescription } from '@/core/convert';
import { BijouError } from '@/core/errors';
import { openSound } from '@/core/formats/open';
import { heldBelow } from '@/core/held';
import { cureSteps, missedLevels } from '@/core/oneOff/missed';
import { listedFacts, measured } from '@/core/measure/probe';
import type { Recipe, Shape } from '@/core/recipe/types';
import { rm } from 'node:fs/promises';
import { pieces } from '@/core/bytes/source';
import { fileScratch, withFile, writeTemporary } from '@/server/files/bytes';
import { sha256OfFile } from '@/server/files/store';
import { whileGoing } from '../batch/stopping';
import type { Built, BuildTask } from '../batch/tasks';

/**
 * Makes one file of a stored source and decodes it again from its bytes.
 * @throws not-found for a source that has gone or changed, internal for a file that is not as it must be
 */
export async function build(task: BuildTask): Promise<Built> {
  await checkSource(task);
  try {
    const made = await heldBelow(
      task.plan,
      (recipe) => madeOnce(task, recipe),
      ({ facts, loudestDbfs = null }) => ({ ...facts, loudestDbfs }),
    );
    const missed = missedLevels({ ...task.plan, ...made }, cureSteps);
    const warnings = [...made.warnings, ...missed];
    return { ...made, warnings, sha256: await sha256OfFile(task.temporary) };
  } catch (error) {
    await rm(task.temporary, { force: true });
    throw error;
  }
}

async function madeOnce(task: BuildTask, recipe: Recipe) {
  const { plan, temporary } = task;
  await rm(temporary, { force: true });
  const converted = plan.isCopy ? await copied(task) : await encoded(task, recipe);
  const { expected, loop, loudestDbfs, warnings } = converted;
  const raw = rawDescription(plan.writer, plan.settings, expected);
  const found = await withFile(temporary, async (made) => {
    const { pcm, result } = measured(await openSound(whileGoing(made), raw), made.size, { loop });
    for await (const block of pcm.blocks) void block;
    return result();
  });
  const { problems, facts } = compare(found, expected);
  if (problems.length > 0) {
    throw new BijouError(
      'internal',
      `The result is not as it must be and was not kept: ${problems.join(' ')}`,
      'Try another setting, and report this with the sound.',
    );
  }
  const { bytes } = facts;
  return { bytes, facts: listedFacts(facts), loop, loudestDbfs, warnings };
}

function encoded({ plan, source, raw, shape, temporary }: BuildTask, recipe: Recipe) {
  const { writer, settings, tags } = plan;
  return withFile(source, (bytes) =>
    writeTemporary(temporary, (sink) =>
      convert(whileGoing(bytes), { recipe, writer, settings, tags }, sink, {
        frames: shape.frames,
        raw: raw ?? undefined,
        scratch: () => fileScratch(`${temporary}-scratch`),
      }),
    ),
  );
}

async function copied({ source, shape, temporary }: BuildTask) {
  await withFile(source, (bytes) =>
    writeTemporary(temporary, async (sink) => {
      for await (const piece of pieces(whileGoing(bytes))) await sink.write(piece);
    }),
  );
  const expected: Shape = shape;
  return { expected, loop: undefined, loudestDbfs: undefined, warnings: [] };
}

/** Sources lie under the hash of what they are: what has another one is another file. */
async function checkSource({ source, plan, raw }: BuildTask): Promise<void> {
  const hash = createHash('sha256');
  try {
    for await (const piece of createReadStream(source)) hash.update(piece as Buffer);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ENOENT') throw error;
    throw new BijouError(
      'not-found',
      'The source that it is made of is not in the store any more.',
      'Bring the sound in again, then build again.',
    );
  }
  if (raw) hash.update(JSON.stringify(raw));
  if (hash.digest('hex') === plan.sourceSha256) return;
  throw new BijouError(
    'changed-meanwhile',
    'The source that it is made of was changed in the store: it is not what came in.',
    'Bring the sound in again, then build again.',
  );
}
