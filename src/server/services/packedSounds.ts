import type { NeededFile } from '@/core/brief/needs';
import type { EncodingPlan } from '@/core/encoding';
import { writerById } from '@/core/formats/write';
import { sheetOf, type SheetLine } from '@/core/join/plan';
import type { ListedFacts } from '@/core/measure/probe';
import type { PackedSound } from '@/core/pack/data';
import { marksAfter, shapeAfter } from '@/core/recipe/recipe';
import { spanThrough, traceRecipe } from '@/core/recipe/trace';
import { emptyRecipe, shapeOf } from '@/core/recipe/types';
import type { Sound } from '@/wire';
import type { Database } from '../db';

/** What manifests can say of a finished file; the rest is said of its sound, of its place, and of others. */
export type ToldFile = Omit<PackedSound, 'path' | 'soundId' | 'piece' | keyof Placed | keyof Said>;
/** For which file of which destination it was made. */
type Placed = Pick<PackedSound, 'briefId' | 'briefVersion' | 'fileId' | 'sha256'>;
/** What is said of the sound itself, whatever was made of it. */
type Said = Pick<Sound, 'name' | 'group' | 'labels' | 'language' | 'tempo'>;
export type ToldSound = Said & Pick<Sound, 'id'>;

/** A finished file with what is known of it, whoever made it. */
export interface Finished {
  sha256: string;
  facts: Pick<
    ListedFacts,
    | 'bytes'
    | 'container'
    | 'codec'
    | 'sampleRateHz'
    | 'channels'
    | 'bitDepth'
    | 'frames'
    | 'seconds'
    | 'tags'
    | 'loop'
  >;
}

/** Everything that manifests can say of a finished file of a sound. */
export function packedSound(
  told: ToldFile,
  placed: Placed,
  { id, name, group, labels, language, tempo }: ToldSound,
  piece: PackedSound['piece'],
): Omit<PackedSound, 'path'> {
  // What is told was read for this alone; a copy of ten thousand takes longer than all else.
  return Object.assign(told, placed, { soundId: id, name, group, labels, language, tempo, piece });
}

export function toldOf(
  sound: Sound,
  { plan }: Pick<NeededFile, 'plan'>,
  { facts }: Pick<Finished, 'facts'>,
): ToldFile {
  return {
    bytes: facts.bytes,
    container: facts.container,
    codec: facts.codec,
    mimeType: writerById(plan.writer).mimeType,
    sampleRateHz: facts.sampleRateHz,
    channels: facts.channels,
    bitDepth: facts.bitDepth,
    frames: facts.frames,
    seconds: facts.seconds,
    ...loopOf(sound, plan, facts),
    tags: facts.tags,
    source: { name: sound.fileName, sha256: sound.sourceSha256, tags: sound.facts?.tags ?? {} },
    sheet: sheetIn(sound, plan),
  };
}

/** Where it loops, whether its format has a place for that or not. */
function loopOf(
  { facts: source }: Sound,
  plan: EncodingPlan,
  facts: Finished['facts'],
): Pick<PackedSound, 'loop' | 'loopParts'> {
  if (!source || plan.isCopy) return { loop: facts.loop, loopParts: null };
  const { loop, intro, first, tail } = marksAfter(plan.recipe, shapeOf(source), source);
  const parts = { ...(intro && { intro }), ...(first && { first }), ...(tail && { tail }) };
  return { loop, loopParts: loop ? parts : null };
}

/** What it is of the loop of another sound, where it was made as a piece of one. */
export function pieceOf(db: Pick<Database, 'sounds'>, { join }: Sound): PackedSound['piece'] {
  const [part, ...others] = join?.parts ?? [];
  if (!part?.piece || others.length > 0) return null;
  const whole = db.sounds.byId(part.soundId);
  if (!whole?.facts) return null;
  const { first } = marksAfter(whole.recipe, shapeOf(whole.facts), whole.facts);
  return {
    of: whole.name,
    ofId: whole.id,
    piece: part.piece,
    repeatCarriesTail: first !== null,
  };
}

/** Where the sounds lie that it was joined of, in frames of the finished file. */
function sheetIn({ joined, facts }: Sound, plan: EncodingPlan): SheetLine[] | null {
  if (!joined || joined.placed.length < 2 || !facts) return null;
  const recipe = plan.isCopy ? emptyRecipe : plan.recipe;
  const before = shapeOf(facts);
  const after = shapeAfter(recipe, before);
  const trace = traceRecipe(recipe, before);
  const span = (part: { startFrame: number; endFrame: number }) =>
    spanThrough(trace, part, after.frames);
  return sheetOf(joined.placed, span, after.rateHz);
}
