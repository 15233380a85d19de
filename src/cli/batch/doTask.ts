import { mixdownLossOf } from '@/core/compare/mixdown';
import { measureTrial } from '@/core/compare/trial';
import { convert, rawDescription, verify } from '@/core/convert';
import { declickDefaults, findClicks } from '@/core/dsp/declick';
import { BijouError } from '@/core/errors';
import { openSound, sourceOf } from '@/core/formats/open';
import { measureSeam } from '@/core/loop/seam';
import { tailLeftDbfs } from '@/core/loop/tailLeft';
import { measureLevels } from '@/core/measure/levels';
import { listedFacts, probe } from '@/core/measure/probe';
import { cureOptions, missedLevels } from '@/core/oneOff/missed';
import { estimateFile } from '@/core/oneOff/estimateFile';
import { streamOf } from '@/core/pcm/source';
import { applyRecipe } from '@/core/recipe/recipe';
import { plainTools } from '@/core/recipe/types';
import { fileScratch, putInPlace, withFile, writeTemporary } from '@/server/files/bytes';
import { workClock } from '@/server/work/threadClock';
import { build } from '../build/make';
import { changedMeanwhile, changeOf, withInput } from '../inputs';
import { whileGoing } from './stopping';
import { fileError } from '../disk/trouble';
import type {
  Answer,
  ConvertTask,
  EstimateTask,
  Looked,
  LookTask,
  Made,
  MeasureTask,
  Probed,
  ProbeTask,
  SeamFound,
  SeamTask,
  Task,
  TrialTask,
  Tried,
} from './tasks';

const doers: { [Kind in Task['kind']]: (task: Extract<Task, { kind: Kind }>) => Promise<unknown> } =
  {
    build,
    probe: probeFile,
    look,
    convert: makeFile,
    measure,
    estimate,
    seam,
    trial: tryCandidate,
  };

/** Does one task; what goes wrong is an answer as well. */
export async function doTask(task: Task): Promise<Answer<unknown>> {
  try {
    const work = doers[task.kind] as (task: Task) => Promise<unknown>;
    return { ok: true, result: await work(task) };
  } catch (error) {
    return { ok: false, error: fileError(error) };
  }
}

function probeFile({ place, raw, clicks, voice }: ProbeTask): Promise<Probed> {
  return withInput(place, async (source) => {
    const { facts, warnings, pace } = await probe(source, { raw, voice });
    const listed = listedFacts(facts);
    if (!clicks) return { facts: listed, warnings, pace };
    const found = await findClicks((await openSound(source, raw)).pcm(), declickDefaults);
    return {
      facts: listed,
      warnings,
      pace,
      clicks: found.map(({ channel, startFrame, samples }) => ({
        channel: channel + 1,
        startFrame,
        frames: samples.length,
      })),
    };
  });
}

async function look({ place, raw }: LookTask): Promise<Looked> {
  const change = await changeOf(place);
  return withInput(place, async (source) => {
    const { header, warnings } = await openSound(source, raw);
    const facts = header.frames === null ? (await probe(source, { raw })).facts : null;
    const { frames, loop } = { ...header, ...facts };
    const { sampleRateHz: rateHz, channels: channelCount, speakerMask, codec, bitDepth } = header;
    const shape = { rateHz, channelCount, frames: frames!, speakerMask };
    return { shape, codec, bitDepth, bytes: source.size, loop, warnings, change };
  });
}

/** Encodes, decodes the result again, and only then gives it its name. */
async function makeFile(task: ConvertTask): Promise<Made> {
  const { place, change, making, output, temporary, overwrite } = task;
  const { frames, raw, loop, ...conversion } = making;
  const scratch = () => fileScratch(`${temporary}-scratch`);
  const converted = await withInput(place, (source) =>
    writeTemporary(temporary, (sink) =>
      convert(source, conversion, sink, { frames, raw, scratch }),
    ),
  );
  if ((await changeOf(place)) !== change) throw changedMeanwhile();
  const description = rawDescription(making.writer, making.settings, converted.expected);
  const { ok, problems, facts } = await withFile(temporary, (made) =>
    verify(whileGoing(made), converted.expected, {
      raw: description,
      loop: loop ?? converted.loop,
    }),
  );
  if (!ok) {
    throw new BijouError(
      'internal',
      `The result is not as it must be and was not kept: ${problems.join(' ')}`,
      'Try another setting, and report this with the file.',
    );
  }
  if (output !== null) await putInPlace(temporary, output, overwrite);
  const missed = missedLevels({ ...conversion, ...converted, facts }, cureOptions);
  return { facts: listedFacts(facts), warnings: [...converted.warnings, ...missed] };
}

function measure({ place, making: { recipe, raw, frames } }: MeasureTask) {
  return withInput(place, async (source) => {
    const reader = await openSound(source, raw);
    const shaped = await applyRecipe(recipe, sourceOf(reader, frames));
    return measureLevels(streamOf(shaped));
  });
}

function seam({ place, raw, recipe, frames, loop, tail }: SeamTask): Promise<SeamFound> {
  return withInput(place, async (source) => {
    const reader = await openSound(source, raw);
    const shaped = await applyRecipe(recipe, sourceOf(reader, frames));
    return {
      seam: await measureSeam(shaped, loop),
      tailLeftDbfs: tail && (await tailLeftDbfs(shaped, tail.endFrame, tail.gainDb)),
    };
  });
}

function estimate({ place, making }: EstimateTask) {
  const { frames, raw, ...conversion } = making;
  return withInput(place, (source) => estimateFile(source, conversion, { frames, raw }));
}

/** The result stays where it is: what it costs to decode is measured when nothing else is done. */
async function tryCandidate(task: TrialTask): Promise<Tried> {
  const { place, change, making, reference, loop, temporary } = task;
  const { frames, raw, ...conversion } = making;
  const scratch = () => fileScratch(`${temporary}-scratch`);
  return withInput(place, async (source) => {
    const converted = await writeTemporary(temporary, (sink) =>
      convert(source, conversion, sink, { frames, raw, scratch, clock: workClock.now }),
    );
    const description = rawDescription(making.writer, making.settings, converted.expected);
    const whole = sourceOf(await openSound(source, raw), frames);
    const shaped = await applyRecipe(reference, whole);
    const mixdownLossDb = await mixdownLossOf(whole, reference, plainTools);
    const figures = await withFile(temporary, (made) =>
      measureTrial(whileGoing(made), shaped, { raw: description, loop, mixdownLossDb }),
    );
    if ((await changeOf(place)) !== change) throw changedMeanwhile();
    return { figures, encodeMs: converted.encodeMs ?? 0, raw: description };
  });
}
