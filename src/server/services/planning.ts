import { createHash } from 'node:crypto';
import { briefById } from '@/core/brief';
import { checkFinished } from '@/core/brief/check';
import { conversionSteps, findingsWith, obstacle, type Choices } from '@/core/brief/plan';
import type { Brief, BriefFile } from '@/core/brief/schema';
import type { CheckedFacts } from '@/core/brief/types';
import { BijouError, errorFacts, fromErrorFacts } from '@/core/errors';
import { writerById } from '@/core/formats/write';
import { speakersOf } from '@/core/pcm/speakers';
import { PROCESSING_VERSION } from '@/core/recipe/version';
import { describeRecipe, shapeAfter } from '@/core/recipe/recipe';
import type { Recipe } from '@/core/recipe/types';
import type { Assignment, Output, PackLine, Sound } from '@/wire';
import { sourceShape } from './sounds';

/** One file that is to be made: everything that decides its bytes. */
interface PlannedFile {
  file: BriefFile;
  recipe: Recipe;
  /** The source is what the brief wants already, and encoding it again would only lose. */
  isCopy: boolean;
  outputKey: string;
  steps: string[];
}

/** What an assignment needs, and what has come of it. */
export function packLine(
  sound: Sound,
  assignment: Assignment,
  outputs: readonly Output[],
): PackLine {
  const { keys, ...need } = needOf(sound, assignment);
  return {
    assignment,
    ...need,
    outputs: outputs.map((row) => ({ ...row, upToDate: row.outputKey === keys.get(row.fileId) })),
  };
}

/** What an assignment needs, with the keys of its outputs by file. */
type Need = Pick<PackLine, 'findings' | 'plans' | 'obstacle'> & { keys: Map<string, string> };

// A sound is the same object until something of it changes: then it is planned anew.
const needs = new WeakMap<Sound, Map<string, Need>>();

function needOf(sound: Sound, { briefId, choices }: Assignment): Need {
  const ofSound = needs.get(sound) ?? new Map<string, Need>();
  needs.set(sound, ofSound);
  const key = JSON.stringify([briefId, choices]);
  const need = ofSound.get(key) ?? workedOut(sound, briefId, choices);
  ofSound.set(key, need);
  return need;
}

function workedOut(sound: Sound, briefId: string, choices: Choices): Need {
  try {
    const brief = briefById(briefId);
    if (sound.state === 'reading' || sound.error) throw notReady(sound);
    const facts = shapedFacts(sound);
    const planned = plannedFiles(sound, brief, choices);
    const blocked = obstacle(facts, brief, choices);
    return {
      findings: findingsWith(facts, brief, choices),
      plans: planned.map(({ file, steps, isCopy }) => ({
        fileId: file.id,
        steps: [...steps, isCopy ? COPIED : `encode with ${settingName(file)}`],
      })),
      obstacle: blocked && errorFacts(blocked),
      keys: new Map(planned.map((plan) => [plan.file.id, plan.outputKey])),
    };
  } catch (error) {
    return { findings: [], plans: [], obstacle: errorFacts(error), keys: new Map() };
  }
}

/** A joined sound whose parts have changed is not what it will be. */
function notReady({ name, error }: Sound): BijouError {
  return error
    ? fromErrorFacts(error)
    : new BijouError(
        'not-allowed',
        `“${name}” is being put together.`,
        'Wait a moment, then try again.',
      );
}

const COPIED = 'copy the file as it is: encoding it again would only lose';

function settingName(file: BriefFile): string {
  return writerById(file.writer).describe(file.settings as Record<string, unknown>);
}

/** The facts of a sound behind its recipe, as briefs look at them. */
function shapedFacts(sound: Sound): CheckedFacts {
  const before = sourceShape(sound);
  const after = shapeAfter(sound.recipe, before);
  const facts = sound.facts!;
  return {
    ...facts,
    sampleRateHz: after.rateHz,
    channels: after.channelCount,
    speakers: speakersOf(after.channelCount, after.speakerMask),
    seconds: after.frames / after.rateHz,
  };
}

/** The files that a brief wants of a sound, with the keys of their outputs. */
export function plannedFiles(sound: Sound, brief: Brief, choices: Choices): PlannedFile[] {
  const before = sourceShape(sound);
  const shaped = shapeAfter(sound.recipe, before);
  return brief.files.map((file) => {
    const added = conversionSteps(shaped, file, choices);
    const recipe: Recipe = { version: 1, steps: [...sound.recipe.steps, ...added] };
    const writer = writerById(file.writer);
    const steps = recipe.steps.filter((step) => step.on);
    const isCopy = steps.length === 0 && isWantedAlready(sound, brief, file);
    const key = [
      sound.sourceSha256,
      ...(isCopy ? ['copy'] : [steps, PROCESSING_VERSION, writer.version, file.settings]),
    ];
    return {
      file,
      recipe,
      isCopy,
      outputKey: createHash('sha256').update(JSON.stringify(key)).digest('hex'),
      steps: describeRecipe(recipe, before),
    };
  });
}

/** Whether a whole, lossy source meets a file of the brief as it is. */
function isWantedAlready({ facts, warnings }: Sound, brief: Brief, file: BriefFile): boolean {
  const isWholeAndLossy = facts !== null && facts.bitDepth === null && warnings.length === 0;
  return isWholeAndLossy && checkFinished(facts, brief, file.id).accepted;
}
