import type { Faults, Fields } from './bytes';

/** An ID3v2.3 tag (id3.org, ID3 tag version 2.3.0) that fills `size` bytes. */
export function checkId3(file: Fields, from: number, size: number, faults: Faults): void {
  faults.same('the mark of the tag', file.text(from, 3), 'ID3');
  faults.same('its version', `${file.u8(from + 3)}.${file.u8(from + 4)}`, '3.0');
  faults.same('its flags', file.u8(from + 5), 0);
  const sizes = [...file.part(from + 6, 4)];
  faults.must(
    'its size is not syncsafe',
    sizes.every((byte) => byte < 128),
  );
  const body = sizes.reduce((sum, byte) => sum * 128 + byte, 0);
  faults.same('the size of the tag', 10 + body, size);
  const ids = new Set<string>();
  let at = from + 10;
  while (at < from + size) {
    const id = file.text(at, 4);
    faults.must(`a frame called ${id}`, /^[A-Z][A-Z0-9]{3}$/.test(id) && !ids.has(id));
    ids.add(id);
    const length = file.be32(at + 4);
    faults.same('the flags of a frame', file.be16(at + 8), 0);
    faults.same('the encoding of a text', file.u8(at + 10), 1);
    const text = at + 11 + (id === 'COMM' ? 3 : 0);
    faults.same('its byte order', file.be16(text), 0xfffe);
    at += 10 + length;
  }
  faults.same('the end of the last frame', at, from + size);
}

/** Bytes of the tag in front of a file; 0 without one. */
export function id3Bytes(file: Fields): number {
  if (file.text(0, 3) !== 'ID3') return 0;
  return 10 + [...file.part(6, 4)].reduce((sum, byte) => sum * 128 + byte, 0);
}
