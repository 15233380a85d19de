import { decode } from 'fast-png';
import { Unzlib } from 'fflate';
import { BijouError } from '../../errors';
import { joinBytes } from '../../formats/bits';
import { either } from '../../tradeNames';
import { crc32 } from '../../bytes/crc';

const SIGNATURE = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];
export const MOST_ICON_BYTES = 4_000_000;
/** Samples of a pixel by the type of colour (PNG, 11.2.2). */
const SAMPLES: Record<number, number> = { 0: 1, 2: 3, 3: 1, 4: 2, 6: 4 };

/** Chunks without which the picture would be another one (PNG, 11.2 and 11.3.1). */
const NEEDED = new Set(['IHDR', 'PLTE', 'tRNS', 'IDAT', 'IEND']);

/**
 * A PNG that a layout takes, with nothing in it but its picture: texts, places and whatever else a camera or a program
 * has put into it stay here. The picture is decoded to its last pixel first.
 * @throws too-large, not-legal, damaged-header
 */
export function plainIcon(bytes: Uint8Array, sizes: readonly number[]): Uint8Array {
  checkIcon(bytes, sizes);
  const kept = chunksOf(bytes).filter(({ type }) => NEEDED.has(type));
  const plain = joinBytes(Uint8Array.from(SIGNATURE), ...kept.map(({ whole }) => whole));
  try {
    decode(plain, { checkCrc: true });
  } catch {
    throw damaged();
  }
  return plain;
}

/**
 * Whether the bytes are a PNG that a layout takes, whole and not damaged. Answers its width, which is its height.
 * @throws too-large, not-legal, damaged-header
 */
export function checkIcon(bytes: Uint8Array, sizes: readonly number[]): number {
  if (bytes.length > MOST_ICON_BYTES) throw huge();
  if (SIGNATURE.some((byte, i) => bytes[i] !== byte)) throw noPng();
  const chunks = chunksOf(bytes);
  const header = chunks[0];
  if (header?.type !== 'IHDR' || header.data.length !== 13) throw damaged();
  const view = new DataView(header.data.buffer, header.data.byteOffset);
  const [width, height] = [view.getUint32(0), view.getUint32(4)];
  const [bits, colour, , , interlace] = header.data.subarray(8);
  if (width !== height) throw notSquare(width, height);
  if (!sizes.includes(width)) throw otherSize(width, sizes);
  const samples = SAMPLES[colour!];
  if (!samples || ![1, 2, 4, 8, 16].includes(bits!) || chunks.at(-1)?.type !== 'IEND') {
    throw damaged();
  }
  const row = 1 + Math.ceil((width * samples * bits!) / 8);
  // Interlaced rows lie otherwise: at most so much more of them.
  const [least, most] = interlace ? [row, row * height * 2 + 64] : [row * height, row * height];
  const pixels = pixelBytes(
    chunks.filter(({ type }) => type === 'IDAT'),
    most,
  );
  if (pixels < least || pixels > most) throw damaged();
  return width;
}

interface Chunk {
  type: string;
  data: Uint8Array;
  /** With its length, type and checksum. */
  whole: Uint8Array;
}

function chunksOf(bytes: Uint8Array): Chunk[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const chunks: Chunk[] = [];
  for (let at = SIGNATURE.length; at < bytes.length;) {
    if (at + 12 > bytes.length) throw damaged();
    const length = view.getUint32(at);
    const end = at + 12 + length;
    if (end > bytes.length) throw damaged();
    const checked = bytes.subarray(at + 4, end - 4);
    if (crc32(checked) !== view.getUint32(end - 4)) throw damaged();
    const type = String.fromCharCode(...checked.subarray(0, 4));
    chunks.push({ type, data: checked.subarray(4), whole: bytes.subarray(at, end) });
    at = end;
  }
  return chunks;
}

/** How many bytes the pixels unpack to; looked at piece by piece, and given up beyond `most`. */
function pixelBytes(chunks: readonly Chunk[], most: number): number {
  let count = 0;
  try {
    const unpacking = new Unzlib((piece) => {
      count += piece.length;
      if (count > most) throw damaged();
    });
    chunks.forEach(({ data }, i) => {
      // A small piece at a time: it unpacks to at most a thousand times as much.
      for (let at = 0; at < data.length; at += 16_384) {
        const isLast = i === chunks.length - 1 && at + 16_384 >= data.length;
        unpacking.push(data.slice(at, at + 16_384), isLast);
      }
    });
  } catch {
    throw damaged();
  }
  return count;
}

function noPng(): BijouError {
  return new BijouError(
    'not-legal',
    'The icon is no PNG.',
    'Save it as PNG, or let Bijou draw one.',
  );
}

function notSquare(width: number, height: number): BijouError {
  return new BijouError(
    'not-legal',
    `The icon is ${width} × ${height} pixels: it is not square.`,
    'Cut it to a square, or let Bijou draw one.',
  );
}

function otherSize(width: number, sizes: readonly number[]): BijouError {
  return new BijouError(
    'not-legal',
    `The icon is ${width} × ${width} pixels.`,
    `Make it ${either(sizes.map((size) => `${size} × ${size}`))}, or let Bijou draw one.`,
  );
}

function huge(): BijouError {
  return new BijouError(
    'too-large',
    'The icon is a file of more than 4 MB.',
    'Save it smaller, or let Bijou draw one.',
  );
}

function damaged(): BijouError {
  return new BijouError(
    'damaged-header',
    'The icon is a damaged PNG.',
    'Save it again, or let Bijou draw one.',
  );
}
