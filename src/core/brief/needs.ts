import { planEnd, type EncodingPlan } from '../encoding';
import { errorFacts, type ErrorFacts } from '../errors';
import type { Warning } from '../formats/types';
import type { ListedFacts } from '../measure/probe';
import { speakersOf } from '../pcm/speakers';
import { describeRecipe, shapeAfter } from '../recipe/recipe';
import { shapeOf, type Recipe } from '../recipe/types';
import { checkFinished } from './check';
import { conversionSteps, findingsWith, obstacle, type Choices } from './plan';
import type { Brief, BriefFile } from './schema';
import type { CheckedFacts, Finding } from './types';

/** A sound that has been read, as it is held against briefs. */
export interface AssignedSound {
  sourceSha256: string;
  facts: ListedFacts;
  warnings: readonly Warning[];
  recipe: Recipe;
}

/** One file that a brief wants of a sound. */
interface NeededFile {
  file: BriefFile;
  plan: EncodingPlan;
  /** What will be done for it, in words. */
  steps: string[];
}

/** What has to be done so that a sound can go to a brief. */
export interface Need {
  findings: Finding[];
  files: NeededFile[];
  /** Why it cannot be made as things are. */
  obstacle: ErrorFacts | null;
}

/** Holds a sound behind its recipe against a brief. @throws what the first impossible step of the recipe says. */
export function needOf(sound: AssignedSound, brief: Brief, choices: Choices): Need {
  const facts = shapedFacts(sound);
  const blocked = obstacle(facts, brief, choices);
  return {
    findings: findingsWith(facts, brief, choices),
    files: brief.files.map((file) => neededFile(sound, brief, file, choices)),
    obstacle: blocked && errorFacts(blocked),
  };
}

/** The facts of a sound behind its recipe, as briefs look at them. */
function shapedFacts({ facts, recipe }: AssignedSound): CheckedFacts {
  const after = shapeAfter(recipe, shapeOf(facts));
  return {
    ...facts,
    sampleRateHz: after.rateHz,
    channels: after.channelCount,
    speakers: speakersOf(after.channelCount, after.speakerMask),
    seconds: after.frames / after.rateHz,
  };
}

function neededFile(
  sound: AssignedSound,
  brief: Brief,
  file: BriefFile,
  choices: Choices,
): NeededFile {
  const before = shapeOf(sound.facts);
  const added = conversionSteps(shapeAfter(sound.recipe, before), file, choices);
  const recipe: Recipe = { version: 1, steps: [...sound.recipe.steps, ...added] };
  const { writer, settings } = file;
  const isUntouched = !recipe.steps.some((step) => step.on);
  const plan: EncodingPlan = {
    sourceSha256: sound.sourceSha256,
    recipe,
    writer,
    settings,
    isCopy: isUntouched && isWantedAlready(sound, brief, file),
  };
  return { file, plan, steps: [...describeRecipe(recipe, before), planEnd(plan)] };
}

/** Whether a whole, lossy source meets a file of the brief as it is. */
function isWantedAlready(
  { facts, warnings }: AssignedSound,
  brief: Brief,
  file: BriefFile,
): boolean {
  const isWholeAndLossy = facts.bitDepth === null && warnings.length === 0;
  return isWholeAndLossy && checkFinished(facts, brief, file.id).accepted;
}
