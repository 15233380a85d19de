import { Fields, type Faults } from './bytes';
import { opusFrames } from './ogg';

/** WebM with Opus (RFC 8794 for EBML, RFC 9559 for Matroska, and the WebM guidelines). */
export function checkWebm(file: Fields, faults: Faults): void {
  const [head, segment, ...more] = childrenOf(file, 0, file.size, faults);
  if (!head || !segment) throw new Error('no head or no segment');
  faults.same('elements behind the segment', more.length, 0);
  faults.same('the first elements', `${hex(head.id)} ${hex(segment.id)}`, '1a45dfa3 18538067');
  const heads = childrenOf(file, head.at, head.end, faults);
  const docType = heads.find(({ id }) => id === 0x4282);
  faults.same(
    'the kind of document',
    docType && file.text(docType.at, docType.end - docType.at),
    'webm',
  );
  faults.must(
    'its version knows no delays',
    uint(
      file,
      heads.find(({ id }) => id === 0x4287),
    ) >= 4,
  );
  const parts = childrenOf(file, segment.at, segment.end, faults);
  const all = (id: number) => parts.filter((part) => part.id === id);
  const inside = (id: number) => {
    const [part] = all(id);
    if (!part) throw new Error(`no ${hex(id)}`);
    return childrenOf(file, part.at, part.end, faults);
  };
  for (const seek of inside(0x114d9b74)) {
    const entry = childrenOf(file, seek.at, seek.end, faults);
    const wanted = uint(
      file,
      entry.find(({ id }) => id === 0x53ab),
    );
    const place =
      segment.at +
      uint(
        file,
        entry.find(({ id }) => id === 0x53ac),
      );
    faults.must(
      `nothing of ${hex(wanted)} where it is sought`,
      parts.some((part) => part.id === wanted && part.start === place),
    );
  }
  const info = inside(0x1549a966);
  faults.same(
    'the time scale',
    uint(
      file,
      info.find(({ id }) => id === 0x2ad7b1),
    ),
    1_000_000,
  );
  const duration = info.find(({ id }) => id === 0x4489);
  const ms = duration ? file.view.getFloat64(duration.at) : NaN;
  const skip = checkTrack(file, inside(0x1654ae6b), faults);
  const { frames, discarded, times } = checkClusters(file, all(0x1f43b675), faults);
  faults.must(`a duration of ${ms} ms`, Math.abs(ms * 48 - (frames - discarded - skip)) < 0.01);
  for (const point of inside(0x1c53bb6b)) {
    const entry = childrenOf(file, point.at, point.end, faults);
    const time = uint(
      file,
      entry.find(({ id }) => id === 0xb3),
    );
    const track = entry.find(({ id }) => id === 0xb7)!;
    const position = childrenOf(file, track.at, track.end, faults).find(({ id }) => id === 0xf1);
    faults.same('where a cue leads', times.get(segment.at + uint(file, position)), time);
  }
  for (const tags of all(0x1254c367)) checkTags(file, tags, faults);
}

interface Element {
  id: number;
  start: number;
  at: number;
  end: number;
}

const hex = (id: number) => id.toString(16);

/** Elements that fill a span to its end. */
function childrenOf(file: Fields, from: number, to: number, faults: Faults): Element[] {
  const found: Element[] = [];
  let at = from;
  while (at < to) {
    const start = at;
    const idBytes = Math.clz32(file.u8(at) << 24) + 1;
    let id = 0;
    for (let i = 0; i < idBytes; i++) id = id * 256 + file.u8(at++);
    const first = file.u8(at);
    const sizeBytes = Math.clz32(first << 24) + 1;
    let size = first & (0xff >> sizeBytes);
    for (let i = 1; i < sizeBytes; i++) size = size * 256 + file.u8(at + i);
    at += sizeBytes;
    found.push({ id, start, at, end: at + size });
    at += size;
  }
  faults.same('the end of the last element', at, to);
  return found;
}

function uint(file: Fields, element: Element | undefined): number {
  if (!element) return NaN;
  let value = 0;
  for (let at = element.at; at < element.end; at++) value = value * 256 + file.u8(at);
  return value;
}

/** Answers the pre-skip in frames. */
function checkTrack(file: Fields, entries: readonly Element[], faults: Faults): number {
  faults.same('the number of tracks', entries.length, 1);
  const parts = childrenOf(file, entries[0]!.at, entries[0]!.end, faults);
  const part = (id: number) => parts.find((one) => one.id === id);
  for (const id of [0xd7, 0x73c5, 0x83, 0x86, 0x63a2, 0x56aa, 0x56bb, 0xe1]) {
    faults.must(`the track has no ${hex(id)}`, part(id) !== undefined);
  }
  faults.same('the kind of track', uint(file, part(0x83)), 2);
  const codec = part(0x86)!;
  faults.same('the codec', file.text(codec.at, codec.end - codec.at), 'A_OPUS');
  const head = new Fields(file.part(part(0x63a2)!.at, 19));
  faults.same('the head', head.text(0, 8), 'OpusHead');
  const skip = head.le16(10);
  faults.same('the delay in ns', uint(file, part(0x56aa)), Math.round((skip * 1e9) / 48_000));
  faults.same('the pre-roll in ns', uint(file, part(0x56bb)), 80_000_000);
  const audio = childrenOf(file, part(0xe1)!.at, part(0xe1)!.end, faults);
  faults.same(
    'the channels',
    uint(
      file,
      audio.find(({ id }) => id === 0x9f),
    ),
    head.u8(9),
  );
  return skip;
}

function checkClusters(file: Fields, clusters: readonly Element[], faults: Faults) {
  let frames = 0;
  let discarded = 0;
  const times = new Map<number, number>();
  clusters.forEach((cluster, c) => {
    const parts = childrenOf(file, cluster.at, cluster.end, faults);
    const time = uint(
      file,
      parts.find(({ id }) => id === 0xe7),
    );
    times.set(cluster.start, time);
    parts.slice(1).forEach((part, i) => {
      const isLast = c === clusters.length - 1 && i === parts.length - 2;
      faults.same('the kind of a block', hex(part.id), isLast ? 'a0' : 'a3');
      const group = isLast ? childrenOf(file, part.at, part.end, faults) : [part];
      const block = group[0]!;
      faults.same('the track of a block', file.u8(block.at), 0x81);
      faults.same('the time of a block', (time + file.be16(block.at + 1)) * 48, frames);
      const length = opusFrames(file.part(block.at + 4, block.end - block.at - 4));
      frames += length;
      const discard = group.find(({ id }) => id === 0x75a2);
      if (!discard) return;
      discarded = Math.round((uint(file, discard) * 48_000) / 1e9);
      faults.must('more is discarded than the last block holds', discarded < length);
    });
  });
  return { frames, discarded, times };
}

function checkTags(file: Fields, tags: Element, faults: Faults): void {
  for (const tag of childrenOf(file, tags.at, tags.end, faults)) {
    const [targets, ...simple] = childrenOf(file, tag.at, tag.end, faults);
    faults.same('the first part of a tag', targets && hex(targets.id), '63c0');
    for (const one of simple) {
      const ids = childrenOf(file, one.at, one.end, faults).map(({ id }) => hex(id));
      faults.same('a simple tag', `${hex(one.id)}: ${ids.join(' ')}`, '67c8: 45a3 4487');
    }
  }
}
