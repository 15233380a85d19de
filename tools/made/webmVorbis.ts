import { memorySource } from '@/core/bytes/source';
import { joinBytes } from '@/core/formats/bits';
import { oggPackets } from '@/core/formats/ogg/packets';
import { readPage } from '@/core/formats/ogg/page';
import { element, ID, text, uint } from '@/core/formats/webm/ebml';

/** The packets of an Ogg Vorbis file in WebM, as others write it. */
export async function webmOf(ogg: Uint8Array): Promise<Uint8Array> {
  const packets: Uint8Array[] = [];
  const { serial } = readPage(ogg, 0)!;
  for await (const { data } of oggPackets(memorySource(ogg), serial)) packets.push(data.slice());
  const headers = packets.splice(0, 3);
  const sizes = headers.slice(0, 2).flatMap(({ length }) => lace(length));
  const setup = joinBytes(Uint8Array.of(2, ...sizes), ...headers);
  const entry = element(
    ID.trackEntry,
    uint(ID.trackNumber, 1),
    uint(ID.trackType, 2),
    text(ID.codecId, 'A_VORBIS'),
    element(ID.codecPrivate, setup),
  );
  const blocks = packets.map((data) =>
    element(ID.simpleBlock, joinBytes(Uint8Array.of(0x81, 0, 0, 0), data)),
  );
  return joinBytes(
    element(ID.ebml, text(ID.docType, 'webm')),
    element(
      ID.segment,
      element(ID.tracks, entry),
      element(ID.cluster, uint(ID.timestamp, 0), ...blocks),
    ),
  );
}

function lace(size: number): number[] {
  return [...new Array<number>(Math.floor(size / 255)).fill(255), size % 255];
}
