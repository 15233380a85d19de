import { OggPager, readPage, type OggPage } from '@/core/formats/ogg/page';

/** The same file with some of its pages changed, all with right checksums. */
function repaged(bytes: Uint8Array, change: (own: DataView, page: OggPage) => void): Uint8Array {
  const copy = bytes.slice();
  const first = readPage(copy, 0)!;
  const pager = new OggPager(first.serial);
  for (let at = 0; at < copy.length;) {
    const page = readPage(copy, at)!;
    const own = copy.slice(at, at + page.bytes);
    change(new DataView(own.buffer), page);
    copy.set(pager.append(own), at);
    at += page.bytes;
  }
  return copy;
}

/** Files that no writer of ours makes. */
export const patched = {
  /** The same with one bit other, at a share of its length. */
  flipped(bytes: Uint8Array, share: number): Uint8Array {
    const copy = bytes.slice();
    copy[Math.floor(copy.length * share)]! ^= 4;
    return copy;
  },

  /** An Ogg whose last page says that it ends after so many seconds, at 44.1 kHz. */
  longOgg: (bytes: Uint8Array, seconds: number): Uint8Array =>
    repaged(bytes, (own, { isLast }) => {
      if (isLast) own.setBigInt64(6, BigInt(seconds * 44_100), true);
    }),

  /** An Ogg Vorbis whose head says that it has so many channels. */
  channelsOgg: (bytes: Uint8Array, channels: number): Uint8Array =>
    repaged(bytes, (own, { isFirst, headerBytes }) => {
      if (isFirst) own.setUint8(headerBytes + 11, channels);
    }),
};
