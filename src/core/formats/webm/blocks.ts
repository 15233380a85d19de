import type { ByteSource } from '../../bytes/source';
import { elements, ID, readElement, readInt, readVint, type Element } from './ebml';

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

/** Walks a file element by element, entering segment and clusters; reads ahead, so that small reads are cheap. */
export class WebmWalk {
  private at = 0;
  private ahead: Uint8Array = new Uint8Array(0);
  private aheadAt = 0;
  /** Whether the file ended inside an element. */
  isCut = false;

  constructor(private readonly source: ByteSource) {}

  private async bytes(at: number, length: number): Promise<Uint8Array> {
    if (at < this.aheadAt || at + length > this.aheadAt + this.ahead.length) {
      this.ahead = await this.source.read(at, Math.max(length, AHEAD_BYTES));
      this.aheadAt = at;
    }
    return this.ahead.subarray(at - this.aheadAt, at - this.aheadAt + length);
  }

  /** The next element that is not entered. `body` reads it; null when it is too large or cut off. */
  async next(): Promise<(Element & { body(): Promise<Uint8Array | null> }) | null> {
    for (;;) {
      if (this.at >= this.source.size) return null;
      const found = readElement(await this.bytes(this.at, 12), 0);
      if (!found) {
        this.isCut = true;
        return null;
      }
      const start = this.at + found.headBytes;
      if (entered.has(found.id)) {
        if (found.size !== null && start + found.size > this.source.size) this.isCut = true;
        this.at = start;
        continue;
      }
      if (found.size === null) {
        this.isCut = true;
        return null;
      }
      const size = found.size;
      this.at = start + size;
      if (this.at > this.source.size) this.isCut = true;
      const body = async () => {
        if (size > MOST_BODY_BYTES) return null;
        const bytes = await this.bytes(start, size);
        return bytes.length === size ? bytes : null;
      };
      return { ...found, body };
    }
  }
}

/** The packets of one track. `onCut` is told when the file ends before its time. */
export async function* webmPackets(
  source: ByteSource,
  track: number,
  onCut: () => void,
): AsyncGenerator<WebmPacket> {
  const walk = new WebmWalk(source);
  for (let found = await walk.next(); found; found = await walk.next()) {
    if (found.id !== ID.simpleBlock && found.id !== ID.blockGroup) continue;
    const body = await found.body();
    if (!body) continue;
    if (found.id === ID.simpleBlock) yield* packetsOf(body, track, 0);
    else {
      const { block, discardNs } = groupOf(body);
      if (block) yield* packetsOf(block, track, discardNs);
    }
  }
  if (walk.isCut) onCut();
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
function* packetsOf(block: Uint8Array, track: number, discardNs: number): Generator<WebmPacket> {
  const number = readVint(block, 0);
  if (!number || number.value !== track || block.length < number.bytes + 3) return;
  const lacing = (block[number.bytes + 2]! >> 1) & 3;
  const packets = unlaced(block.subarray(number.bytes + 3), lacing);
  for (const [i, data] of packets.entries()) {
    yield { data: data.slice(), discardNs: i === packets.length - 1 ? discardNs : 0 };
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
