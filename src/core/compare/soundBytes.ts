import type { ByteSource } from '../bytes/source';
import { readFlacHead } from '../formats/flac/metadata';
import { iffChunks } from '../formats/iff';
import { readFrameHeader } from '../formats/mp3/frame';
import { readInfoFrame } from '../formats/mp3/infoFrame';
import { readIndex } from '../formats/mp4/boxes';
import { packetSizes } from '../formats/mp4/packets';
import { readPage } from '../formats/ogg/page';
import { pagesOf } from '../formats/ogg/packets';
import { skipId3v2, tagBytesAtEnd } from '../formats/tags/id3';
import { webmPackets } from '../formats/webm/blocks';

/** How many bytes of a file of each container are the codec's own; the others stand around them. */
const counters: Record<string, (file: ByteSource) => Promise<number>> = {
  wav: (file) => chunkBytes(file, 'data', true),
  // In front of the samples stand two numbers.
  aiff: async (file) => Math.max(0, (await chunkBytes(file, 'SSND', false)) - 8),
  flac: async (file) => file.size - (await readFlacHead(file, 0)).soundStart,
  mp3: mp3Bytes,
  ogg: oggBytes,
  webm: webmBytes,
  mp4: async (file) => sum(packetSizes((await readIndex(file)).tables)),
  raw: (file) => Promise.resolve(file.size),
};

/**
 * Bytes of a file that Bijou wrote that are encoded sound; null for containers in which that means nothing.
 * @throws damaged-header as the container's reader does
 */
export async function soundBytes(file: ByteSource, container: string): Promise<number | null> {
  return (await counters[container]?.(file)) ?? null;
}

async function chunkBytes(file: ByteSource, id: string, isLittle: boolean): Promise<number> {
  for await (const chunk of iffChunks(file, isLittle)) {
    if (chunk.id === id) return Math.min(chunk.stated, file.size - chunk.start);
  }
  return 0;
}

/** Tags, and the frame that says how long the sound is, are none. */
async function mp3Bytes(file: ByteSource): Promise<number> {
  const start = await skipId3v2(file);
  const head = await file.read(start, 4_096);
  const header = readFrameHeader(head);
  const info = header && readInfoFrame(head.subarray(0, header.bytes), header);
  const { bytes } = await tagBytesAtEnd(file);
  return file.size - bytes - start - (info ? header.bytes : 0);
}

/** Pages of headers end at no sample, those of sound do. */
async function oggBytes(file: ByteSource): Promise<number> {
  const serial = readPage(await file.read(0, 512), 0)?.serial ?? 0;
  let bytes = 0;
  for await (const { page, payload } of pagesOf(file, serial, 0)) {
    if (page.granule !== 0n) bytes += payload.length;
  }
  return bytes;
}

/** Bijou writes one track. */
async function webmBytes(file: ByteSource): Promise<number> {
  let bytes = 0;
  for await (const packets of webmPackets(file, 1, () => undefined)) {
    bytes += sum(packets.map(({ data }) => data.length));
  }
  return bytes;
}

function sum(sizes: Iterable<number>): number {
  let total = 0;
  for (const size of sizes) total += size;
  return total;
}
