import { LRUCache } from 'lru-cache';
import type { Recipe } from '@/core/recipe/types';
import { askNumbers } from '@/player/asking';

/** A sound whose picture is drawn: a source, or what a recipe makes of it. */
export interface Pictured {
  /** Tells pictures apart: another recipe is another picture. */
  key: string;
  soundId: number;
  sourceSha256: string;
  /** null for the source itself. */
  recipe: Recipe | null;
  frames: number;
  channels: number;
}

/** The part of a sound that a picture shows, in frames. */
export interface View {
  start: number;
  end: number;
}

/** Columns of a tile; a tile of level `n` has one for every 4ⁿ frames. */
const TILE_COLUMNS = 1_024;
const FACTOR = 4;
const MOST_TILES = 800;
/** Requests at a time: the browser has six lines to the server, and listening needs some. */
const MOST_ASKED = 3;
/** Tiles that nobody looks at any more are not fetched. */
const MOST_WAITING = 24;

interface Tile {
  columns: Float32Array;
  count: number;
}

const tiles = new LRUCache<string, Tile>({ max: MOST_TILES });
/** Tiles that are on their way. */
const askedFor = new Set<string>();
const listeners = new Set<() => void>();
let waiting: { id: string; of: Pictured; level: number; index: number }[] = [];

/** Calls `hear` whenever more of a picture is there. */
export function onTile(hear: () => void): () => void {
  listeners.add(hear);
  return () => void listeners.delete(hear);
}

/** How many columns a level has over a whole sound. */
function columnsAt(level: number, frames: number): number {
  return Math.ceil(frames / FACTOR ** level);
}

/** The coarsest level that still has a column for every pixel. */
function levelFor(framesPerPixel: number): number {
  return Math.max(0, Math.floor(Math.log(framesPerPixel) / Math.log(FACTOR) + 1e-9));
}

type Look = (level: number, index: number, isWanted: boolean) => Tile | null;

/** Looks tiles up; the same one is looked up for hundreds of columns in a row. */
function lookIn(of: Pictured): Look {
  const seen = new Map<number, ReturnType<Look>>();
  return (level, index, isWanted) => {
    const place = index * 64 + level;
    const known = seen.get(place);
    if (known !== undefined) return known;
    const found = tile(of, level, index, isWanted);
    seen.set(place, found);
    return found;
  };
}

function tile(of: Pictured, level: number, index: number, isWanted: boolean) {
  const id = `${of.key} ${level} ${index}`;
  const found = tiles.get(id);
  if (found) return found;
  if (isWanted && !askedFor.has(id) && !waiting.some((entry) => entry.id === id)) {
    // What was asked for last is what is looked at.
    waiting.push({ id, of, level, index });
    waiting = waiting.slice(-MOST_WAITING);
    askNext();
  }
  return null;
}

function askNext(): void {
  while (askedFor.size < MOST_ASKED && waiting.length > 0) {
    const { id, of, level, index } = waiting.pop()!;
    askedFor.add(id);
    void fetchTile(of, level, index)
      .then((made) => {
        tiles.set(id, made);
        for (const hear of listeners) hear();
      })
      .catch(() => undefined)
      .finally(() => {
        askedFor.delete(id);
        askNext();
      });
  }
}

async function fetchTile(of: Pictured, level: number, index: number) {
  const perColumn = FACTOR ** level;
  const start = index * TILE_COLUMNS * perColumn;
  const count = Math.min(TILE_COLUMNS, columnsAt(level, of.frames) - index * TILE_COLUMNS);
  const span = { start, end: start + count * perColumn, columns: count };
  const base = `/api/sounds/${of.soundId}`;
  const columns = await (of.recipe
    ? askNumbers(`${base}/shaped/peaks`, {
        method: 'POST',
        data: { ...span, recipe: of.recipe },
      })
    : askNumbers(
        // The source is named so that its picture is not taken for the one of a source that replaced it.
        `${base}/peaks?start=${span.start}&end=${span.end}&columns=${count}&of=${of.sourceSha256}`,
      ));
  return { columns, count };
}

/** What is drawn: for every channel `min, max, rms` a column, over the frames of `covers`. */
export interface Columns {
  covers: View;
  channels: Float32Array[];
}

/**
 * Columns for a view, one a pixel, or one a frame when there are fewer. Where the finest picture is not
 * there yet a coarser one stands in; null when there is none at all.
 */
export function columnsOf(of: Pictured, view: View, width: number): Columns | null {
  const framesPerPixel = (view.end - view.start) / width;
  const isClose = framesPerPixel <= 1;
  const covers = isClose
    ? { start: Math.floor(view.start), end: Math.min(of.frames, Math.ceil(view.end)) }
    : view;
  const count = isClose ? covers.end - covers.start : Math.round(width);
  const per = (covers.end - covers.start) / count;
  const finest = levelFor(Math.max(1, per));
  const channels = Array.from({ length: of.channels }, () => new Float32Array(count * 3));
  const look = lookIn(of);
  let isComplete = true;
  for (let column = 0; column < count; column++) {
    const from = covers.start + column * per;
    isComplete = fill(of.frames, look, channels, column, [from, from + per], finest) && isComplete;
  }
  return isComplete ? { covers, channels } : null;
}

/** Coarsest level: all of it in one tile. */
function topLevel(frames: number): number {
  let level = 0;
  while (columnsAt(level, frames) > TILE_COLUMNS) level++;
  return level;
}

function fill(
  frames: number,
  look: Look,
  channels: readonly Float32Array[],
  column: number,
  [from, to]: readonly [number, number],
  finest: number,
): boolean {
  const top = Math.max(finest, topLevel(frames));
  for (let level = finest; level <= top; level++) {
    const perColumn = FACTOR ** level;
    const last = columnsAt(level, frames) - 1;
    const first = Math.max(0, Math.min(last, Math.floor(from / perColumn)));
    const end = Math.max(first, Math.min(last, Math.ceil(to / perColumn - 1e-6) - 1));
    // The finest is asked for; of the coarser ones only the whole, which is there soon.
    const isWanted = level === finest || level === top;
    const a = look(level, Math.floor(first / TILE_COLUMNS), isWanted);
    const b = look(level, Math.floor(end / TILE_COLUMNS), isWanted);
    if (!a || !b) continue;
    channels.forEach((out, c) =>
      join(out, column, c, first, end, (i) => (isBefore(i, end) ? a : b)),
    );
    return true;
  }
  return false;
}

/** Whether a column lies in an earlier tile than another. */
function isBefore(i: number, end: number): boolean {
  return Math.floor(i / TILE_COLUMNS) < Math.floor(end / TILE_COLUMNS);
}

/** Several columns of one channel as one. */
function join(
  out: Float32Array,
  column: number,
  channel: number,
  first: number,
  end: number,
  tileOf: (i: number) => { columns: Float32Array; count: number },
): void {
  let [min, max, square] = [Infinity, -Infinity, 0];
  for (let i = first; i <= end; i++) {
    const { columns, count } = tileOf(i);
    const at = (channel * count + (i % TILE_COLUMNS)) * 3;
    min = Math.min(min, columns[at]!);
    max = Math.max(max, columns[at + 1]!);
    square += columns[at + 2]! ** 2;
  }
  out[column * 3] = min;
  out[column * 3 + 1] = max;
  out[column * 3 + 2] = Math.sqrt(square / (end - first + 1));
}
