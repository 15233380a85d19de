import { planEnd, type EncodingPlan } from '../encoding';
import { errorFacts, type ErrorFacts } from '../errors';
import { isEncoded, isLossy } from '../formats/lossy';
import { checkedSettings, writerById } from '../formats/write';
import { writers } from '../formats';
import type { Warning } from '../formats/types';
import { tagNames, type SoundMarks, type Tags } from '../marks';
import type { ListedFacts } from '../measure/probe';
import { filledPattern, type TokenValues } from '../pack/pattern';
import { speakersOf } from '../pcm/speakers';
import { active, describeRecipe, marksAfter, peakAtMost, shapeAfter } from '../recipe/recipe';
import type { Outcome } from '../recipe/outcome';
import type { NormaliseParams } from '../recipe/steps/normalise';
import { shapeOf, type Recipe, type Shape, type Step } from '../recipe/types';
import { checkFinished } from './check';
import { askedLevel, levelFinding } from './levels';
import { type Choices } from './choices';
import { narrowedBrief } from './narrowed';
import { conversionSteps, findingsWith, levelSteps, obstacle, shorterSteps } from './plan';
import type { Brief, BriefFile } from './schema';
import { settingsFor } from './target';
import type { CheckedFacts, Finding } from './types';

/** A sound that has been read, as it is held against briefs. */
export interface AssignedSound {
  sourceSha256: string;
  facts: ListedFacts;
  warnings: readonly Warning[];
  recipe: Recipe;
  /** What was measured behind the recipe; null while nobody has, or need not. */
  outcome?: Outcome | null;
  /** What names and tags are made of. */
  name?: string;
  group?: string;
  language?: string | null;
}

/** One file that a brief wants of a sound. */
export interface NeededFile {
  file: BriefFile;
  /** What it will hold. */
  shape: Shape;
  plan: EncodingPlan;
  /** The ending of its name: of what is handed on, that of its own format. */
  ending: string;
  /** What will be done for it, in words. */
  steps: string[];
  /** Tags that it is to have. */
  tags: Tags;
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
export function needOf(sound: AssignedSound, whole: Brief, choices: Choices): Need {
  const brief = narrowedBrief(whole, choices);
  const facts = shapedFacts(sound, choices);
  const files = brief.files.map((file) => neededFile(sound, facts, brief, file, choices));
  // What is handed on as it is was made so by somebody else.
  const copied = new Set(files.filter(({ plan }) => plan.isCopy).map(({ file }) => file.id));
  const found = findingsWith(facts, brief, choices).filter(
    ({ requirement, fileId }) => requirement !== 'full-scale' || !copied.has(fileId),
  );
  const findings = [...found, ...files.flatMap(({ level }) => level ?? [])];
  const blocked = obstacle(found, brief);
  const stopped = sound.outcome?.error ?? (blocked && errorFacts(blocked));
  return { findings, files, obstacle: stopped ?? illegalSetting(files) };
}

/** The same sound is held against many briefs. */
const known = new WeakMap<AssignedSound, CheckedFacts>();

/** The facts of a sound behind its recipe, as briefs look at them. */
function shapedFacts(sound: AssignedSound, choices: Choices): CheckedFacts {
  if (choices.seconds !== undefined) return factsBehind(sound, choices);
  const facts = known.get(sound) ?? factsBehind(sound, choices);
  known.set(sound, facts);
  return facts;
}

function factsBehind(sound: AssignedSound, { seconds }: Choices): CheckedFacts {
  const { facts, recipe, outcome, language = null } = sound;
  const before = shapeOf(facts);
  const shaped = shapeAfter(recipe, before);
  const shorter: Recipe = {
    version: 1,
    steps: [...recipe.steps, ...shorterSteps(shaped, seconds)],
  };
  const after = shapeAfter(shorter, before);
  // Where nothing was measured, what can be said without.
  const overDb = outcome?.peakDbfs ?? peakAtMost(recipe, facts.peakDbfs);
  const isUntouched = active(shorter).length === 0;
  const { loop } = marksOf(sound, shorter);
  const seam = isUntouched ? facts.seam : outcome?.seam;
  return {
    ...facts,
    sampleRateHz: after.rateHz,
    channels: after.channelCount,
    speakers: speakersOf(after.channelCount, after.speakerMask),
    seconds: after.frames / after.rateHz,
    overDb: overDb === Infinity ? undefined : overDb,
    truePeakDbtp: isUntouched ? facts.truePeakDbtp : (outcome?.truePeakDbtp ?? undefined),
    lufs: isUntouched ? facts.lufs : undefined,
    loop,
    seamScore: loop ? seam?.score : null,
    language,
  };
}

function marksOf({ facts }: AssignedSound, recipe: Recipe): SoundMarks {
  const { tags, loop, markers } = facts;
  return marksAfter(recipe, shapeOf(facts), { tags, loop, markers });
}

function neededFile(
  sound: AssignedSound,
  facts: CheckedFacts,
  brief: Brief,
  file: BriefFile,
  choices: Choices,
) {
  const before = shapeOf(sound.facts);
  const asked = askedLevel(sound.recipe);
  const after = shapeAfter(sound.recipe, before);
  const converted = conversionSteps(after, file, choices, asked?.steps);
  const added = [
    ...loopSteps(sound, brief, choices),
    ...converted,
    ...levelSteps(brief, facts.lufs),
  ];
  const recipe: Recipe = { version: 1, steps: [...sound.recipe.steps, ...added] };
  const shape = shapeAfter(recipe, before);
  const settings = settingsFor(file, facts, shape);
  const tags = wantedTags(sound, brief);
  const isTagged = brief.tags !== undefined && !isSame(tags, sound.facts.tags);
  // What turns down what is too loud leaves the rest as it is to the bit.
  const isUntouched = !recipe.steps.some((step) => step.on && step.kind !== 'limit');
  const isCopy = isUntouched && !isTagged && isWantedAlready(sound, brief, file);
  const { peakDbtp, isFixed = false } = brief.level ?? {};
  // What a lossy codec lifts is only known when it is decoded: then it is made once more.
  const isLifted = !isFixed && isLossy(file.codec);
  const isHeld = peakDbtp !== undefined && isLifted;
  const isHeldInside = isLifted && choices.clipping !== 'keep' && !isCopy;
  const plan: EncodingPlan = {
    sourceSha256: sound.sourceSha256,
    recipe,
    writer: file.writer,
    settings,
    isCopy,
    ...(isTagged && { tags: replacing(tags) }),
    ...(isHeld && { heldDbtp: peakDbtp }),
    ...(isHeldInside && { isHeldInside }),
  };
  const level = levelFinding(file.id, asked, added, sound.facts.identicalChannels, choices);
  return {
    file,
    shape,
    plan,
    ending: isCopy && file.ending === undefined ? ownEnding(sound, file) : file.extension,
    steps: [...(isCopy ? [] : describeRecipe(recipe, before)), planEnd(plan)],
    tags,
    level,
    changedLevel: asked && level && !choices.levelBehind && !brief.level ? asked.params : null,
  };
}

/** What makes a loop where one is wanted, and takes one away where none is. */
function loopSteps(sound: AssignedSound, { loop: demand }: Brief, choices: Choices): Step[] {
  if (demand?.marked !== 'forbidden' && !choices.isWholeLoop) return [];
  const { loop } = marksOf(sound, sound.recipe);
  const { frames } = shapeAfter(sound.recipe, shapeOf(sound.facts));
  const whole = { startFrame: 0, endFrame: frames };
  if (loop && demand?.marked === 'forbidden') {
    return [{ kind: 'keep', on: true, params: { ...whole, withoutLoop: true } }];
  }
  if (loop || !choices.isWholeLoop) return [];
  const params = { ...whole, introFrames: 0, tailFrames: 0, seam: 'cut' };
  return [{ kind: 'loop', on: true, params }];
}

/** The tags that a file of a sound is to have. */
function wantedTags({ facts, ...sound }: AssignedSound, { tags: demand }: Brief): Tags {
  const kept = demand?.keep ?? tagNames;
  const own = Object.fromEntries(
    Object.entries(facts.tags).filter(([name]) => (kept as readonly string[]).includes(name)),
  );
  const values: TokenValues = {
    name: sound.name ?? '',
    group: sound.group ?? '',
    language: sound.language ?? '',
    format: '',
    prefix: '',
    number: 0,
  };
  const set = Object.entries(demand?.set ?? {}).map(([name, pattern]) => [
    name,
    filledPattern(pattern ?? '', values),
  ]);
  return { ...own, ...Object.fromEntries(set) };
}

/** Tags that leave nothing of others over. */
function replacing(tags: Tags): Tags {
  return Object.fromEntries(tagNames.map((name) => [name, tags[name] ?? '']));
}

function isSame(a: Tags, b: Tags): boolean {
  return tagNames.every((name) => a[name] === b[name]);
}

/** Whether a source that encoding again would only lose of meets a file of the brief as it is. */
function isWantedAlready(
  { facts, warnings }: AssignedSound,
  brief: Brief,
  file: BriefFile,
): boolean {
  const isWhole = warnings.length === 0;
  return (
    isWhole &&
    isEncoded(facts) &&
    checkFinished({ ...facts, seamScore: facts.seam?.score }, brief, file.id).accepted
  );
}

/** The ending of a file that is handed on: a brief may take more formats than the one it is made in. */
function ownEnding({ facts }: AssignedSound, file: BriefFile): string {
  const taken = [file.writer, ...(file.alsoTakes ?? [])];
  const kind = writers.find(
    ({ id, container, codec }) =>
      taken.includes(id) && container === facts.container && codec === facts.codec,
  );
  return kind?.extension ?? file.extension;
}

/** What was chosen for one sound may be illegal for it, and so may what its brief leaves open. */
function illegalSetting(files: readonly NeededFile[]): ErrorFacts | null {
  for (const { plan, shape } of files) {
    try {
      const writer = writerById(plan.writer);
      if (!plan.isCopy) checkedSettings(writer, plan.settings, shape.rateHz, shape.channelCount);
    } catch (error) {
      return errorFacts(error);
    }
  }
  return null;
}
