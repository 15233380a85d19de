import { isRate } from '../../pcm/rates';
import type { ByteSource } from '../../bytes/source';
import type { Tags } from '../../marks';
import { viewOf } from '../bits';
import { iffChunks, KeptChunks } from '../iff';
import { damagedHeader } from '../problems';
import type { OtherRate, StatedHeader } from '../types';
import { readId3Chunk } from '../tags/id3';
import { readRiffInfo } from '../tags/riffInfo';
import { namedMarkers, readCues, readLabels, readSampler } from './marks';

/** The `fmt ` chunk. */
export interface Fmt {
  tag: number;
  channels: number;
  rateHz: number;
  bytesPerSecond: number;
  blockAlign: number;
  bits: number;
  /** Bits that are used of those stored, and the speakers; 0 where not stated. */
  validBits: number;
  speakerMask: number;
  /** What codecs other than PCM state behind. */
  framesPerBlock: number;
  byteOffset: number;
}

const EXTENSIBLE = 0xfffe;
export interface WavChunks {
  fmt: Fmt;
  dataStart: number;
  /** Bytes of sound that are there. */
  dataBytes: number;
  /** Bytes of sound that the header promises; null when it leaves that open. */
  statedBytes: number | null;
  /** Frames as the `fact` chunk states them. */
  factFrames: number | null;
  /** Chunks beside the sound. */
  others: KeptChunks;
}

/** What is read beside format and sound. */
const wanted = new Set(['fact', 'smpl', 'cue ', 'LIST', 'id3 ', 'ID3 ']);

/** Walks a RIFF/WAVE or RF64 file (EBU Tech 3306). @throws damaged-header */
export async function readChunks(source: ByteSource): Promise<WavChunks> {
  const others = new KeptChunks();
  let fmt: Fmt | null = null;
  let long: number | null = null;
  let data: Pick<WavChunks, 'dataStart' | 'dataBytes' | 'statedBytes'> | null = null;
  const chunks = iffChunks(source, true);
  for (let next = await chunks.next(); !next.done;) {
    const { id, at, start, stated } = next.value;
    let skip: number | undefined;
    if (id === 'data' && !data) {
      if (!fmt) throw damagedHeader('The WAV header has no format chunk before its sound', at);
      data = soundAt(start, stated, long, source.size);
      // What has no stated end has nothing behind it.
      if (data.statedBytes === null) break;
      skip = data.statedBytes;
    } else if ((id === 'fmt ' && !fmt) || id === 'ds64' || wanted.has(id)) {
      const body = await next.value.body();
      if (body && id === 'fmt ') fmt = readFmt(body, start);
      else if (body && id !== 'ds64') others.keep(id, body);
      else if (body && body.length >= 16) long = Number(viewOf(body).getBigUint64(8, true));
    }
    next = await chunks.next(skip);
  }
  if (fmt && data) {
    const fact = others.first('fact');
    const factFrames = fact && fact.length >= 4 ? viewOf(fact).getUint32(0, true) : null;
    return { fmt, ...data, factFrames, others };
  }
  throw damagedHeader(
    fmt ? 'The WAV file ends before its sound begins' : 'The WAV header has no format chunk',
    Math.min(12, source.size),
  );
}

function soundAt(dataStart: number, stated: number, long: number | null, size: number) {
  const left = size - dataStart;
  if (stated === 0xffffffff && long !== null && long > 0) {
    return { dataStart, dataBytes: Math.min(long, left), statedBytes: long };
  }
  // A stated length of zero with bytes behind it is what an interrupted recorder leaves.
  const known = stated > 0 && stated < 0xffffff00;
  return {
    dataStart,
    dataBytes: known ? Math.min(stated, left) : left,
    statedBytes: known ? stated : null,
  };
}

function readFmt(bytes: Uint8Array, byteOffset: number): Fmt {
  if (bytes.length < 16) throw damagedHeader('The WAV format chunk is too short', byteOffset);
  const view = viewOf(bytes);
  const stated = view.getUint16(0, true);
  const extended = stated === EXTENSIBLE && bytes.length >= 26;
  const fmt = {
    tag: extended ? view.getUint16(24, true) : stated,
    channels: view.getUint16(2, true),
    rateHz: view.getUint32(4, true),
    bytesPerSecond: view.getUint32(8, true),
    blockAlign: view.getUint16(12, true),
    bits: view.getUint16(14, true),
    validBits: extended ? view.getUint16(18, true) : 0,
    speakerMask: extended ? view.getUint32(20, true) : 0,
    framesPerBlock: !extended && bytes.length >= 20 ? view.getUint16(18, true) : 0,
    byteOffset,
  };
  if (fmt.channels === 0 || fmt.channels > 64) {
    throw damagedHeader(`The WAV header says ${fmt.channels} channels`, byteOffset + 2);
  }
  if (!isRate(fmt.rateHz)) {
    throw damagedHeader(`The WAV header says a sample rate of ${fmt.rateHz} Hz`, byteOffset + 4);
  }
  return fmt;
}

/** Loop, markers and tags out of the chunks beside the sound. */
export function marksOf(others: WavChunks['others'], frames: number): Partial<StatedHeader> {
  const lists = others.all('LIST');
  const id3 = ['id3 ', 'ID3 '].flatMap((id) => others.all(id)).map(readId3Chunk);
  const tags: Tags = Object.assign({}, ...id3, ...lists.map(readRiffInfo)) as Tags;
  const cues = others.all('cue ').flatMap(readCues);
  const labels = new Map(lists.flatMap((list) => [...readLabels(list)]));
  const sampler = others.first('smpl');
  const { loop, troubles } = sampler ? readSampler(sampler) : { loop: null, troubles: [] };
  return {
    tags,
    loop,
    loopTroubles: troubles,
    markers: namedMarkers(cues, labels, frames),
  };
}

/** Rates that other fields state, where they contradict the one that is used. */
export function otherRatesOf({ fmt, others }: WavChunks): OtherRate[] {
  const found: OtherRate[] = [];
  const plain = fmt.tag === 1 || fmt.tag === 3;
  if (plain && fmt.blockAlign > 0 && fmt.bytesPerSecond % fmt.blockAlign === 0) {
    const rateHz = fmt.bytesPerSecond / fmt.blockAlign;
    found.push({ rateHz, where: 'its number of bytes per second' });
  }
  const sampler = others.first('smpl');
  const rateHz = sampler ? readSampler(sampler).rateHz : null;
  if (rateHz !== null) found.push({ rateHz, where: 'the sample period of its loop chunk' });
  // The period is in whole nanoseconds, so its rate is never quite exact.
  return found.filter(
    (other) => isRate(Math.round(other.rateHz)) && Math.abs(other.rateHz / fmt.rateHz - 1) > 0.01,
  );
}
