import { planEnd, type EncodingPlan } from '../encoding';
import { errorFacts, type ErrorFacts } from '../errors';
import type { Warning } from '../formats/types';
import type { ListedFacts } from '../measure/probe';
import { speakersOf } from '../pcm/speakers';
import { describeRecipe, peakAtMost, shapeAfter } from '../recipe/recipe';
import type { Outcome } from '../recipe/outcome';
import type { NormaliseParams } from '../recipe/steps/normalise';
import { shapeOf, type Recipe } from '../recipe/types';
import { checkFinished } from './check';
import { askedLevel, levelFinding } from './levels';
import { type Choices } from './choices';
import { conversionSteps, findingsWith, obstacle } from './plan';
import type { Brief, BriefFile } from './schema';
import type { CheckedFacts, Finding } from './types';

/** A sound that has been read, as it is held against briefs. */
export interface AssignedSound {
  sourceSha256: string;
  facts: ListedFacts;
  warnings: readonly Warning[];
  recipe: Recipe;
  /** What was measured behind the recipe; null while nobody has, or need not. */
  outcome?: Outcome | null;
}

/** One file that a brief wants of a sound. */
interface NeededFile {
  file: BriefFile;
  plan: EncodingPlan;
  /** What will be done for it, in words. */
  steps: string[];
  /** The level that was asked for, where the conversion gives it another. */
  changedLevel: NormaliseParams | null;
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
  const files = brief.files.map((file) => neededFile(sound, brief, file, choices));
  // What is handed on as it is was made so by somebody else.
  const copied = new Set(files.filter(({ plan }) => plan.isCopy).map(({ file }) => file.id));
  const found = findingsWith(facts, brief, choices).filter(
    ({ requirement, fileId }) => requirement !== 'full-scale' || !copied.has(fileId),
  );
  const findings = [...found, ...files.flatMap(({ level }) => level ?? [])];
  const blocked = obstacle(found, brief);
  const unmeasurable = sound.outcome?.error ?? null;
  return { findings, files, obstacle: unmeasurable ?? (blocked && errorFacts(blocked)) };
}

/** The facts of a sound behind its recipe, as briefs look at them. */
function shapedFacts({ facts, recipe, outcome }: AssignedSound): CheckedFacts {
  const after = shapeAfter(recipe, shapeOf(facts));
  // Where nothing was measured, what can be said without.
  const overDb = outcome?.peakDbfs ?? peakAtMost(recipe, facts.peakDbfs);
  return {
    ...facts,
    sampleRateHz: after.rateHz,
    channels: after.channelCount,
    speakers: speakersOf(after.channelCount, after.speakerMask),
    seconds: after.frames / after.rateHz,
    overDb: overDb === Infinity ? undefined : overDb,
  };
}

function neededFile(sound: AssignedSound, brief: Brief, file: BriefFile, choices: Choices) {
  const before = shapeOf(sound.facts);
  const asked = askedLevel(sound.recipe);
  const after = shapeAfter(sound.recipe, before);
  const added = conversionSteps(after, file, choices, asked?.steps);
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
  const level = levelFinding(file.id, asked, added, sound.facts.identicalChannels, choices);
  return {
    file,
    plan,
    steps: [...describeRecipe(recipe, before), planEnd(plan)],
    level,
    changedLevel: asked && level && !choices.levelBehind ? asked.params : null,
  };
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
