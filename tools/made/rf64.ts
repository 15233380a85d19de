import { ByteWriter, joinBytes } from '@/core/formats/bits';

/** A plain WAV file of ours, its lengths moved to where those beyond 4 GiB stand (EBU Tech 3306). */
export function rf64Of(wav: Uint8Array): Uint8Array {
  const dataAt = Buffer.from(wav).indexOf('data');
  const dataBytes = new DataView(wav.buffer, wav.byteOffset).getUint32(dataAt + 4, true);
  const ds64 = new ByteWriter().text('ds64').u32le(28).i64le(0n).i64le(BigInt(dataBytes));
  ds64.i64le(0n).u32le(0);
  const out = joinBytes(wav.subarray(0, 12), ds64.bytes(), wav.subarray(12));
  out.set(Buffer.from('RF64'));
  const view = new DataView(out.buffer);
  view.setUint32(4, 0xffffffff, true);
  view.setUint32(dataAt + ds64.length + 4, 0xffffffff, true);
  return out;
}
