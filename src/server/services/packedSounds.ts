import type { Brief, BriefFile } from '@/core/brief/schema';
import type { NeededFile } from '@/core/brief/needs';
import type { EncodingPlan } from '@/core/encoding';
import { writerById } from '@/core/formats/write';
import { sheetOf, type SheetLine } from '@/core/join/plan';
import type { ListedFacts } from '@/core/measure/probe';
import type { PackedSound } from '@/core/pack/data';
import type { PartFile } from '@/core/pack/input';
import { marksAfter, shapeAfter } from '@/core/recipe/recipe';
import { spanThrough, traceRecipe } from '@/core/recipe/trace';
import { emptyRecipe, shapeOf } from '@/core/recipe/types';
import type { Sound } from '@/wire';
import type { Database } from '../db';
import type { CellService } from './cells';

/** A finished file with what is known of it, whoever made it. */
interface Finished {
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
function packedSound(
  db: Pick<Database, 'sounds'>,
  sound: Sound,
  brief: Pick<Brief, 'id' | 'version'>,
  file: BriefFile,
  plan: EncodingPlan,
  { sha256, facts }: Finished,
): Omit<PackedSound, 'path'> {
  return {
    briefId: brief.id,
    briefVersion: brief.version,
    fileId: file.id,
    sha256,
    bytes: facts.bytes,
    soundId: sound.id,
    name: sound.name,
    group: sound.group,
    labels: sound.labels,
    language: sound.language,
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
    tempo: sound.tempo,
    piece: pieceOf(db, sound),
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
function pieceOf(db: Pick<Database, 'sounds'>, { join }: Sound): PackedSound['piece'] {
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

export type MadeCell = ReturnType<CellService['made']> extends Generator<infer One> ? One : never;

/** The file of a cell that is finished and up to date in the data folder; null where there is none. */
function storedFile({ made }: MadeCell, fileId: string): Finished | null {
  const { encoding, upToDate, verdict } = made.find(({ row }) => row.fileId === fileId) ?? {};
  if (!upToDate || !verdict?.accepted || !encoding?.sha256 || !encoding.verification) return null;
  return { sha256: encoding.sha256, facts: encoding.verification.facts };
}

/** The files of a cell for a pack, each with what is made of it or why nothing is. */
export function partFiles(
  db: Pick<Database, 'sounds' | 'encodings'>,
  cell: MadeCell,
  finishedFile = storedFile,
): PartFile[] {
  const { assignment, sound, brief, need, made, places } = cell;
  const slotPaths = new Set((brief.layout?.slots ?? []).map(({ path }) => path));
  return brief.files.map((file): PartFile => {
    const needed = need.files.find((one) => one.file.id === file.id);
    const place = places.get(file.id);
    const paths = place?.paths ?? [file.id];
    const meant = new Set([
      ...(assignment.choices.slots ?? []),
      // What lies there by its own name fills it as well.
      ...paths.filter((path) => slotPaths.has(path)),
    ]);
    return {
      soundId: sound.id,
      name: sound.name,
      group: sound.group,
      seconds: sound.facts?.seconds ?? 0,
      fileId: file.id,
      paths,
      slots: [...meant],
      made: finished() ?? { reason: reason(), isBuildable: needed !== undefined && !need.obstacle },
    };

    function finished() {
      const found = finishedFile(cell, file.id);
      return found && needed ? packedSound(db, sound, brief, file, needed.plan, found) : null;
    }

    function reason(): string {
      return notReady(sound, need.obstacle?.message, made.length > 0, needed);
    }
  });
}

function notReady(
  { name }: Sound,
  obstacle: string | undefined,
  wasMade: boolean,
  needed: NeededFile | undefined,
): string {
  if (obstacle !== undefined) return `“${name}” cannot be built yet: ${obstacle}`;
  if (!needed) return `“${name}” cannot be built.`;
  return wasMade ? `“${name}” has to be built anew.` : `“${name}” is not built yet.`;
}
