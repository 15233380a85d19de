import { checkId3 } from './id3';
import type { Faults, Fields } from './bytes';

/** AIFF (Apple, Audio Interchange File Format 1.3). */
export function checkAiff(file: Fields, faults: Faults): void {
  faults.same('the first mark', file.text(0, 4), 'FORM');
  faults.same('the form', file.text(8, 4), 'AIFF');
  faults.same('the FORM size', file.be32(4), file.size - 8);
  const chunks = new Map<string, { at: number; size: number }>();
  let at = 12;
  while (at + 8 <= file.size) {
    const [id, size] = [file.text(at, 4), file.be32(at + 4)];
    faults.must(`${id} stands twice`, !chunks.has(id));
    chunks.set(id, { at: at + 8, size });
    at += 8 + size;
    if (size % 2 === 0) continue;
    faults.must(`${id} has no padding`, at < file.size && file.u8(at) === 0);
    at++;
  }
  faults.same('the end of the last chunk', at, file.size);
  const common = chunks.get('COMM');
  const sound = chunks.get('SSND');
  if (!common || !sound) throw new Error('COMM or SSND is missing');
  faults.same('the size of COMM', common.size, 18);
  const channels = file.be16(common.at);
  const frames = file.be32(common.at + 2);
  const bits = file.be16(common.at + 6);
  faults.same('the size of SSND', sound.size, 8 + (frames * channels * bits) / 8);
  faults.same('offset and block', `${file.be32(sound.at)} ${file.be32(sound.at + 4)}`, '0 0');
  const rate = extended(file, common.at + 8);
  faults.must(`a rate of ${rate} Hz`, Number.isInteger(rate) && rate >= 1_000);
  const markers = checkMarkers(file, chunks.get('MARK'), frames, faults);
  const instrument = chunks.get('INST');
  if (instrument) {
    faults.same('the size of INST', instrument.size, 20);
    const [begin, end] = [10, 12].map((place) => markers.get(file.be16(instrument.at + place)));
    faults.must('the loop has no ends', begin !== undefined && end !== undefined && begin < end);
  }
  const id3 = chunks.get('ID3 ');
  if (id3) checkId3(file, id3.at, id3.size, faults);
}

function checkMarkers(
  file: Fields,
  chunk: { at: number; size: number } | undefined,
  frames: number,
  faults: Faults,
) {
  const markers = new Map<number, number>();
  if (!chunk) return markers;
  let at = chunk.at + 2;
  for (let n = file.be16(chunk.at); n > 0; n--) {
    const id = file.be16(at);
    faults.must(`a marker called ${id}`, id > 0 && id < 0x8000 && !markers.has(id));
    faults.must('a marker behind the sound', file.be32(at + 2) <= frames);
    markers.set(id, file.be32(at + 2));
    const name = file.u8(at + 6);
    const text = file.part(at + 7, name);
    faults.must('a name cut within a letter', isUtf8(text));
    at += 7 + name + ((name + 1) % 2);
  }
  faults.same('the end of the markers', at, chunk.at + chunk.size);
  return markers;
}

function isUtf8(bytes: Uint8Array): boolean {
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    return true;
  } catch {
    return false;
  }
}

/** An 80-bit float: sign and exponent, then 64 bits with the leading one. */
function extended(file: Fields, at: number): number {
  const exponent = (file.be16(at) & 0x7fff) - 16_383 - 63;
  return (file.be32(at + 2) * 2 ** 32 + file.be32(at + 6)) * 2 ** exponent;
}
