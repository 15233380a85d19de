import type { Faults, Fields } from './bytes';
import { checkId3 } from './id3';

/** RIFF/WAVE (Microsoft, Multimedia Programming Interface 1.0 and New Multimedia Data Types). */
export function checkWav(file: Fields, faults: Faults): void {
  faults.same('the first mark', file.text(0, 4), 'RIFF');
  faults.same('the form', file.text(8, 4), 'WAVE');
  faults.same('the RIFF size', file.le32(4), file.size - 8);
  const chunks = chunksOf(file, 12, file.size, faults);
  const one = (id: string) => chunks.find((chunk) => chunk.id === id);
  const fmt = one('fmt ');
  const data = one('data');
  if (!fmt || !data) throw new Error('fmt or data is missing');
  faults.must('fmt comes behind data', fmt.at < data.at);
  const frames = checkFormat(file, fmt, data, one('fact'), faults);
  const sampler = one('smpl');
  if (sampler) checkSampler(file, sampler, frames, file.le32(fmt.at + 4), faults);
  checkCues(file, chunks, frames, faults);
  const id3 = one('id3 ');
  if (id3) checkId3(file, id3.at, id3.size, faults);
  for (const list of chunks.filter(({ id }) => id === 'LIST')) {
    if (file.text(list.at, 4) !== 'INFO') continue;
    for (const { at, size } of chunksOf(file, list.at + 4, list.at + list.size, faults)) {
      faults.must('an INFO text has no end', size > 0 && file.u8(at + size - 1) === 0);
    }
  }
}

interface Chunk {
  id: string;
  at: number;
  size: number;
}

/** Chunks that fill a span to its end, each padded to an even length. */
function chunksOf(file: Fields, from: number, to: number, faults: Faults): Chunk[] {
  const chunks: Chunk[] = [];
  let at = from;
  while (at + 8 <= to) {
    const chunk = { id: file.text(at, 4), at: at + 8, size: file.le32(at + 4) };
    chunks.push(chunk);
    at = chunk.at + chunk.size;
    if (chunk.size % 2 === 0) continue;
    faults.must(`${chunk.id} has no padding`, at < to && file.u8(at) === 0);
    at++;
  }
  faults.same('the end of the last chunk', at, to);
  return chunks;
}

function checkFormat(
  file: Fields,
  fmt: Chunk,
  data: Chunk,
  fact: Chunk | undefined,
  faults: Faults,
) {
  const { at } = fmt;
  const stated = file.le16(at);
  const channels = file.le16(at + 2);
  const bits = file.le16(at + 14);
  const block = file.le16(at + 12);
  const isExtended = stated === 0xfffe;
  const tag = isExtended ? file.le16(at + 24) : stated;
  if (isExtended) {
    faults.same('the size of fmt', fmt.size, 40);
    faults.same('the size of the extension', file.le16(at + 16), 22);
    faults.same('the valid bits', file.le16(at + 18), bits);
    const rest = Buffer.from(file.part(at + 26, 14)).toString('hex');
    faults.same('the sub-format', rest, '000000001000800000aa00389b71');
    const speakers = file
      .le32(at + 20)
      .toString(2)
      .replaceAll('0', '').length;
    faults.must('the mask names more speakers than there are', speakers <= channels);
  } else {
    faults.must('more than two channels without their speakers', channels <= 2);
    faults.same('the size of fmt', fmt.size, tag === 1 ? 16 : tag === 0x11 ? 20 : 18);
  }
  const rate = file.le32(at + 4);
  if (tag === 0x11) {
    const perBlock = file.le16(at + 18);
    faults.same('bits', bits, 4);
    faults.same('frames in a block', perBlock, ((block / channels - 4) / 4) * 8 + 1);
    faults.same('bytes a second', file.le32(at + 8), Math.round((rate * block) / perBlock));
    faults.same('bytes that are no whole block', data.size % block, 0);
    const blocks = data.size / block;
    const frames = fact ? file.le32(fact.at) : 0;
    faults.must('fact is not in the last block', Math.ceil(frames / perBlock) === blocks);
    return frames;
  }
  faults.same('the bytes of a frame', block, (channels * bits) / 8);
  faults.same('bytes a second', file.le32(at + 8), rate * block);
  faults.same('bytes that are no whole frame', data.size % block, 0);
  const frames = data.size / block;
  if (tag !== 1) faults.same('fact', fact && file.le32(fact.at), frames);
  return frames;
}

function checkSampler(
  file: Fields,
  { at, size }: Chunk,
  frames: number,
  rate: number,
  faults: Faults,
) {
  const loops = file.le32(at + 28);
  faults.same('the size of smpl', size, 36 + 24 * loops);
  faults.same('the sample period', file.le32(at + 8), Math.round(1e9 / rate));
  for (let loop = at + 36; loop < at + size; loop += 24) {
    const [start, end] = [file.le32(loop + 8), file.le32(loop + 12)];
    faults.must(`a loop from ${start} to ${end}`, start <= end && end < frames);
  }
}

function checkCues(file: Fields, chunks: readonly Chunk[], frames: number, faults: Faults): void {
  const cue = chunks.find(({ id }) => id === 'cue ');
  const ids = new Set<number>();
  if (cue) {
    const count = file.le32(cue.at);
    faults.same('the size of cue', cue.size, 4 + 24 * count);
    for (let at = cue.at + 4; at < cue.at + cue.size; at += 24) {
      ids.add(file.le32(at));
      faults.same('the chunk of a cue point', file.text(at + 8, 4), 'data');
      faults.must('a cue point lies behind the sound', file.le32(at + 20) <= frames);
    }
    faults.same('different cue points', ids.size, count);
  }
  for (const list of chunks.filter(({ id, at }) => id === 'LIST' && file.text(at, 4) === 'adtl')) {
    for (const label of chunksOf(file, list.at + 4, list.at + list.size, faults)) {
      faults.must('a label of no cue point', ids.has(file.le32(label.at)));
      faults.must('a label has no end', file.u8(label.at + label.size - 1) === 0);
    }
  }
}
