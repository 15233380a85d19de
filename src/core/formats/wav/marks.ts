import { statedLoop, type Loop, type Marker, type Marks } from '../../marks';
import { ascii, ByteWriter, decodeText, encodeText, joinBytes, viewOf } from '../bits';
import { moreLoops, reversedLoop } from '../loopTroubles';
import { writeId3v2 } from '../tags/id3';
import { fitsRiffInfo, riffChunk, subChunks, writeRiffInfo } from '../tags/riffInfo';

/** Loops, cue points and their labels in WAV (Microsoft, "New Multimedia Data Types", 1994). */

/** What a `smpl` chunk states: its first loop, and its own idea of the rate. */
export interface SamplerChunk {
  loop: Loop | null;
  /** What is not used of its loops, in sentences. */
  troubles: string[];
  rateHz: number | null;
}

const LoopType = { Forward: 0, BackAndForth: 1, Backward: 2 } as const;

export function readSampler(body: Uint8Array): SamplerChunk {
  const troubles: string[] = [];
  if (body.length < 36) return { loop: null, troubles, rateHz: null };
  const view = viewOf(body);
  const periodNs = view.getUint32(8, true);
  const rateHz = periodNs > 0 ? Math.round(1e9 / periodNs) : null;
  const loops = Math.min(view.getUint32(28, true), Math.floor((body.length - 36) / 24));
  if (loops === 0) return { loop: null, troubles, rateHz };
  if (loops > 1) troubles.push(moreLoops(loops));
  const type = view.getUint32(40, true);
  // The stated end is the last frame that is played.
  const [start, end] = [view.getUint32(44, true), view.getUint32(48, true) + 1];
  const loop = statedLoop(start, end, {
    isBackAndForth: type === LoopType.BackAndForth,
    isBackward: type === LoopType.Backward,
    times: view.getUint32(56, true),
  });
  if (!loop) troubles.push(reversedLoop(start, end));
  else if (type > LoopType.Backward) {
    troubles.push(
      `Its loop is of a kind that only its maker knows (${type}): it is played forward.`,
    );
  }
  return { loop, troubles, rateHz };
}

export interface CuePoint {
  id: number;
  frame: number;
}

/** Points of one chunk that are looked at. */
const MOST_POINTS = 10_000;

export function readCues(body: Uint8Array): CuePoint[] {
  if (body.length < 4) return [];
  const view = viewOf(body);
  const count = Math.min(MOST_POINTS, view.getUint32(0, true), Math.floor((body.length - 4) / 24));
  return Array.from({ length: count }, (_, i) => ({
    id: view.getUint32(4 + i * 24, true),
    frame: view.getUint32(4 + i * 24 + 20, true),
  }));
}

/** Names of cue points out of a `LIST` of type `adtl`. */
export function readLabels(body: Uint8Array): Map<number, string> {
  const labels = new Map<number, string>();
  if (ascii(body, 0, 4) !== 'adtl') return labels;
  for (const [id, data] of subChunks(body, 4)) {
    if (id === 'labl' && data.length > 4) {
      labels.set(viewOf(data).getUint32(0, true), decodeText(data.subarray(4)));
    }
  }
  return labels;
}

export function namedMarkers(
  cues: readonly CuePoint[],
  labels: ReadonlyMap<number, string>,
  frames: number,
): Marker[] {
  return cues
    .filter(({ frame }) => frame <= frames)
    .map(({ id, frame }) => ({ frame, name: labels.get(id) ?? `marker ${id}` }))
    .sort((a, b) => a.frame - b.frame);
}

/** The chunks that go behind the samples: loop, cue points with names, tags. */
export function writeMarks({ tags, loop, markers }: Marks, rateHz: number): Uint8Array {
  const parts = [writeRiffInfo(tags)];
  // Letters beyond the format's own: many programs look for an ID3 tag as well.
  if (!fitsRiffInfo(tags)) parts.push(riffChunk('id3 ', writeId3v2(tags)));
  if (loop) parts.push(riffChunk('smpl', sampler(loop, rateHz)));
  if (markers.length > 0) {
    const cues = new ByteWriter().u32le(markers.length);
    const labels = new ByteWriter().text('adtl');
    markers.forEach(({ frame, name }, i) => {
      cues
        .u32le(i + 1)
        .u32le(frame)
        .text('data')
        .u32le(0)
        .u32le(0)
        .u32le(frame);
      const label = new ByteWriter().u32le(i + 1).raw(encodeText(`${name}\0`));
      labels.raw(riffChunk('labl', label.bytes()));
    });
    parts.push(riffChunk('cue ', cues.bytes()), riffChunk('LIST', labels.bytes()));
  }
  return joinBytes(...parts);
}

const MIDDLE_C = 60;
/** As a number of passes. */
const ENDLESS = 0;

function sampler(loop: Loop, rateHz: number): Uint8Array {
  const { startFrame, endFrame, isBackAndForth, isBackward, times = ENDLESS } = loop;
  const way = isBackward ? LoopType.Backward : LoopType.Forward;
  const out = new ByteWriter()
    .u32le(0)
    .u32le(0)
    .u32le(Math.round(1e9 / rateHz))
    .u32le(MIDDLE_C);
  out.u32le(0).u32le(0).u32le(0).u32le(1).u32le(0);
  // One loop, named 0.
  out
    .u32le(0)
    .u32le(isBackAndForth ? LoopType.BackAndForth : way)
    .u32le(startFrame)
    .u32le(endFrame - 1)
    .u32le(0)
    .u32le(times);
  return out.bytes();
}
