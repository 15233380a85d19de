import { writeSound } from '@/core/formats/write';
import { planJoin, type PlannedJoin } from '@/core/join/plan';
import { joined, type JoinedPart } from '@/core/join/render';
import { noMarks } from '@/core/marks';
import { blockFrames, tap } from '@/core/pcm/pcm';
import { applyRecipe } from '@/core/recipe/recipe';
import { openFile, writeTemporary } from '../files/bytes';
import { sha256OfFile } from '../files/store';
import { plainSound } from './plainSound';
import { readFile } from './readFile';
import type { JoinResult, JoinTask } from './tasks';

/** Share of the progress that is joining; the rest is reading what came of it. */
const JOINING = 0.7;

/** Joins the parts into one WAV file of 32-bit float samples, with a marker where each begins. */
export async function joinSounds(
  task: JoinTask,
  progress: (share: number) => void,
): Promise<JoinResult> {
  const plan = planJoin(
    task.join,
    task.parts.map(({ facts }) => facts),
  );
  const { frames } = plan.shape;
  let written = 0;
  const pcm = tap(joined(partsOf(task, plan), plan.shape, task.join.overlap), (block) => {
    written += blockFrames(block);
    progress((JOINING * written) / frames);
  });
  const [only, ...others] = task.join.parts;
  const isPiece = others.length === 0 && only?.piece !== undefined;
  const placed = plan.placed.map(({ name, startFrame }) => ({ name, frame: startFrame }));
  const markers = isPiece ? [] : placed;
  // What is played around is marked as that.
  const loop = isPiece && only.piece === 'repeat' ? { startFrame: 0, endFrame: frames } : null;
  await writeTemporary(task.output, (sink) =>
    writeSound(pcm, 'wav', { bits: 32 }, sink, { ...noMarks, loop, markers }),
  );
  const { output: source, peaks } = task;
  const read = await readFile({ source, raw: null, peaks }, (done) =>
    progress(JOINING + ((1 - JOINING) * done) / frames),
  );
  const { bytes } = read.facts;
  return { ...read, sha256: await sha256OfFile(source), bytes, placed: plan.placed };
}

function partsOf(task: JoinTask, { placed }: PlannedJoin): JoinedPart[] {
  return placed.map((place, i) => ({
    ...place,
    async open() {
      const { source: path, raw, facts } = task.parts[i]!;
      const file = await openFile(path);
      try {
        const sound = await plainSound(file.source, { path, raw, frames: facts.shape.frames });
        // A working copy knows nothing of its sound's loop.
        const source = { ...sound, loop: facts.loop };
        return { source: await applyRecipe(place.recipe, source), close: file.close };
      } catch (error) {
        await file.close();
        throw error;
      }
    },
  }));
}
