import type { ByteSource } from '../../bytes/source';
import { elements, ID, readElement, readInt, readVint } from './ebml';

export interface WebmPacket {
  data: Uint8Array;
  /** Time at the end of the packet that is not part of the sound, in nanoseconds. */
  discardNs: number;
}

/** Bodies larger than this are passed over: no packet of sound and no header is. */
const MOST_BODY_BYTES = 16 << 20;
const AHEAD_BYTES = 1 << 18;

/** Elements that are entered rather than read whole. */
const entered: ReadonlySet<number> = new Set([ID.segment, ID.cluster]);
/** Longest head of an element. */
const MOST_HEAD_BYTES = 12;

/**
 * Walks a file, entering segment and clusters, and answers the wanted elements with their bodies, as many at
 * a time as lie in what is read at once. Those that are cut off or impossibly large are left out.
 */
export async function* webmElements(
  source: ByteSource,
  wanted: ReadonlySet<number>,
  onCut: () => void = () => undefined,
): AsyncGenerator<{ id: number; body: Uint8Array }[]> {
  let isCut = false;
  for (let at = 0; at < source.size;) {
    const ahead = await source.read(at, AHEAD_BYTES);
    const isEnd = at + ahead.length >= source.size;
    const found: { id: number; body: Uint8Array }[] = [];
    let used = 0;
    while (used < ahead.length && (isEnd || used + MOST_HEAD_BYTES <= ahead.length)) {
      const element = readElement(ahead, used);
      const start = used + (element?.headBytes ?? 0);
      if (element && entered.has(element.id)) {
        if (at + start + (element.size ?? 0) > source.size) isCut = true;
        used = start;
        continue;
      }
      if (!element || element.size === null) {
        // Nothing tells where the next one begins.
        if (found.length > 0) yield found;
        return onCut();
      }
      const end = start + element.size;
      if (at + end > source.size) isCut = true;
      if (wanted.has(element.id) && element.size <= MOST_BODY_BYTES) {
        if (end > ahead.length && used > 0 && !isEnd) break;
        const body =
          end <= ahead.length
            ? ahead.subarray(start, end)
            : await source.read(at + start, element.size);
        if (body.length === element.size) found.push({ id: element.id, body });
      }
      used = end;
    }
    if (found.length > 0) yield found;
    at += used;
  }
  if (isCut) onCut();
}

const blocks: ReadonlySet<number> = new Set([ID.simpleBlock, ID.blockGroup]);

/** The packets of one track, some at a time. `onCut` is told when the file ends before its time. */
export async function* webmPackets(
  source: ByteSource,
  track: number,
  onCut: () => void,
): AsyncGenerator<WebmPacket[]> {
  for await (const found of webmElements(source, blocks, onCut)) {
    const packets: WebmPacket[] = [];
    for (const { id, body } of found) {
      const { block, discardNs } =
        id === ID.simpleBlock ? { block: body, discardNs: 0 } : groupOf(body);
      if (block) addPackets(packets, block, track, discardNs);
    }
    yield packets;
  }
}

function groupOf(body: Uint8Array): { block: Uint8Array | null; discardNs: number } {
  let block: Uint8Array | null = null;
  let discardNs = 0;
  for (const part of elements(body)) {
    if (part.id === ID.block) block = part.body;
    if (part.id === ID.discardPadding) discardNs = Math.max(0, readInt(part.body));
  }
  return { block, discardNs };
}

/** Track number, time of two bytes, flags; then one packet or several that share the block. */
function addPackets(
  packets: WebmPacket[],
  block: Uint8Array,
  track: number,
  discardNs: number,
): void {
  const number = readVint(block, 0);
  if (!number || number.value !== track || block.length < number.bytes + 3) return;
  const lacing = (block[number.bytes + 2]! >> 1) & 3;
  const laced = unlaced(block.subarray(number.bytes + 3), lacing);
  for (const [i, data] of laced.entries()) {
    const isLast = i === laced.length - 1;
    // What is empty is no packet, but time may be discarded with it.
    if (data.length > 0 || (isLast && discardNs > 0)) {
      packets.push({ data, discardNs: isLast ? discardNs : 0 });
    }
  }
}

/** Undoes lacing (RFC 9559, 10.3): 0 none, 1 Xiph's, 2 of equal sizes, 3 EBML's. */
function unlaced(body: Uint8Array, lacing: number): Uint8Array[] {
  if (lacing === 0) return [body];
  const count = (body[0] ?? 0) + 1;
  let at = 1;
  let sizes: number[] = [];
  if (lacing === 2) {
    sizes = new Array<number>(count - 1).fill(Math.floor((body.length - 1) / count));
  } else {
    let last = 0;
    for (let i = 0; i < count - 1; i++) {
      if (lacing === 1) {
        let size = 0;
        while (body[at] === 255) size += body[at++]!;
        sizes.push(size + (body[at++] ?? 0));
        continue;
      }
      const vint = readVint(body, at);
      if (!vint || vint.value === null) return [];
      // The first size is itself; each further one is a difference around a middle.
      last = i === 0 ? vint.value : last + vint.value - (2 ** (7 * vint.bytes - 1) - 1);
      at += vint.bytes;
      sizes.push(last);
    }
  }
  const packets: Uint8Array[] = [];
  for (const size of sizes) {
    if (size < 0 || at + size > body.length) return packets;
    packets.push(body.subarray(at, at + size));
    at += size;
  }
  packets.push(body.subarray(at));
  return packets;
}
