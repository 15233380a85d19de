import type { ByteSource } from '../bytes/source';
import { readIndex } from '../formats/mp4/boxes';
import { packetsBeyond } from '../formats/mp4/packets';
import { isPageIntact } from '../formats/ogg/page';
import { pagesOf } from '../formats/ogg/packets';
import { plural } from '../words';

/** What is wrong with the bytes of a sound as far as that shows without decoding it; null where nothing is. */
export const damageOf: Readonly<Record<string, (source: ByteSource) => Promise<string | null>>> = {
  ogg: oggDamage,
  mp4: mp4Damage,
};

/** Every page has a checksum, stands behind the one before, and the last says that it is the last. */
async function oggDamage(source: ByteSource): Promise<string | null> {
  const serial = (await source.read(14, 4)).reduceRight((sum, byte) => sum * 256 + byte, 0);
  let isEnded = false;
  for await (const { page, whole, afterGap, isCut } of pagesOf(source, serial, 0)) {
    if (isCut) return CUT;
    if (afterGap || !isPageIntact(whole)) return 'a part of it is damaged';
    isEnded = page.isLast;
  }
  return isEnded ? null : CUT;
}

/** Packets lie where the index says. */
async function mp4Damage(source: ByteSource): Promise<string | null> {
  const { tables } = await readIndex(source);
  const beyond = packetsBeyond(tables, source.size);
  return beyond > 0 ? `${CUT}: ${plural(beyond, 'part')} of it are missing` : null;
}

const CUT = 'its end is missing';
