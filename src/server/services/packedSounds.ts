import type { Brief } from '@/core/brief/schema';
import { groupBy } from '@/core/group';
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
import { packedSound, type StoredPartFile, type ToldFile, type ToldSound } from '../work/partFiles';
import type { FileForPack } from '../db/cellFiles';
import { meetingNames } from './placing';
import type { cellsAnewService } from './cellsAnew';

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

type Made = ReturnType<ReturnType<typeof cellsAnewService>['made']>;
type MadeCell = Made extends Generator<infer One> ? One : never;

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
  return brief.files.map((file): PartFile => {
    const needed = need.files.find((one) => one.file.id === file.id);
    const paths = places.get(file.id)?.paths ?? [file.id];
    const found = needed && finishedFile(cell, file.id);
    const placed = { briefId: brief.id, briefVersion: brief.version, fileId: file.id };
    return {
      soundId: sound.id,
      name: sound.name,
      group: sound.group,
      seconds: sound.facts?.seconds ?? 0,
      fileId: file.id,
      paths,
      slots: slotsOf(brief, paths, assignment.choices.slots ?? []),
      made: found
        ? packedSound(
            toldOf(sound, needed, found),
            { ...placed, sha256: found.sha256 },
            sound,
            pieceOf(db, sound),
          )
        : {
            reason: notReady(sound, need.obstacle?.message, made.length > 0, needed !== undefined),
            isBuildable: needed !== undefined && !need.obstacle,
          },
    };
  });
}

/** The files of everything that goes to a destination, as they are stored. */
export function storedPartFiles(
  db: Pick<Database, 'sounds' | 'cellFiles'>,
  projectId: number,
  brief: Brief,
): StoredPartFile[] {
  const order = new Map(brief.files.map(({ id }, i) => [id, i]));
  const rows = [...groupBy(db.cellFiles.forPack(projectId, brief.id), ({ cellId }) => cellId)];
  return rows.flatMap(([, own]) =>
    own
      .sort((a, b) => (order.get(a.fileId) ?? 0) - (order.get(b.fileId) ?? 0))
      .map((row) => partFileOf(db, brief, row, own)),
  );
}

function partFileOf(
  db: Pick<Database, 'sounds'>,
  brief: Brief,
  row: FileForPack,
  own: readonly FileForPack[],
): StoredPartFile {
  const { soundId, name, group, labels, language, seconds, fileId, paths, key, sha256 } = row;
  const obstacle = row.need.obstacle ?? meetingNames(brief, own);
  const tempo = row.tempo as Sound['tempo'];
  const sound: ToldSound = { id: soundId, name, group, labels, language, tempo };
  const whole = row.isJoined ? db.sounds.byId(soundId) : undefined;
  return {
    ...{ soundId, name, group, seconds, fileId, paths },
    slots: slotsOf(brief, paths, row.slots),
    made:
      row.verdict === 'accepted' && row.told !== null && sha256 !== null
        ? { sha256, told: row.told, sound, piece: whole ? pieceOf(db, whole) : null }
        : {
            reason: notReady(sound, obstacle?.message, row.wasMade, key !== null),
            isBuildable: key !== null && !obstacle,
          },
  };
}

/** The slots that a file is meant for: what lies in one by its own name fills it as well. */
function slotsOf(brief: Brief, paths: readonly string[], chosen: readonly string[]): string[] {
  const slots = brief.layout?.slots ?? [];
  if (slots.length === 0) return [...chosen];
  const known = new Set(slots.map(({ path }) => path));
  return [...new Set([...chosen, ...paths.filter((path) => known.has(path))])];
}

function notReady(
  { name }: Pick<Sound, 'name'>,
  obstacle: string | undefined,
  wasMade: boolean,
  isNeeded: boolean,
): string {
  if (obstacle !== undefined) return `“${name}” cannot be built yet: ${obstacle}`;
  if (!isNeeded) return `“${name}” cannot be built.`;
  return wasMade ? `“${name}” has to be built anew.` : `“${name}” is not built yet.`;
}
