import { zlibSync } from 'fflate';
import { PNG } from 'pngjs';
import { checkIcon, plainIcon } from '@/core/pack/icon/check';
import { drawnIcon } from '@/core/pack/icon/draw';
import { initials } from '@/core/pack/icon/letters';

const png = (width: number, height = width) => {
  const picture = new PNG({ width, height });
  for (let i = 0; i < picture.data.length; i++) picture.data[i] = (i * 37) % 251;
  return new Uint8Array(PNG.sync.write(picture));
};

test('an icon is drawn of a name: square, the same each time, another for another name', () => {
  const icon = drawnIcon('Marrow Skerry', 64);
  const { width, height, data } = PNG.sync.read(Buffer.from(icon));
  expect([width, height]).toEqual([64, 64]);
  const alpha = (x: number, y: number) => data[(y * 64 + x) * 4 + 3];
  expect([alpha(0, 0), alpha(32, 32), alpha(8, 32)]).toEqual([0, 255, 255]);
  // The letters are light, the stone is not.
  const bright = [...Array(64 * 64).keys()].filter(
    (i) => data[i * 4]! > 240 && data[i * 4 + 3]! > 0,
  );
  expect(bright.length).toBeGreaterThan(150);
  expect(Buffer.compare(icon, drawnIcon('Marrow Skerry', 64))).toBe(0);
  expect(Buffer.compare(icon, drawnIcon('Marrow Skerrz', 64))).not.toBe(0);
  for (const name of ['', '漢字', 'a'.repeat(2_000), '\u0000']) {
    expect(checkIcon(drawnIcon(name, 32), [32])).toBe(32);
  }
});

test.each([
  ['Marrow Skerry', 'MS'],
  ['über den Wolken', 'UD'],
  ['storm', 'S'],
  ['7 seas', '7S'],
  ['漢字', ''],
])('%s has the letters %s', (name, letters) => {
  expect(initials(name).join('')).toBe(letters);
});

test('what others write is taken, in whatever colours and rows', () => {
  expect(checkIcon(png(128), [64, 128])).toBe(128);
  for (const colorType of [0, 2, 4, 6] as const) {
    const picture = new PNG({ width: 16, height: 16 });
    expect(checkIcon(new Uint8Array(PNG.sync.write(picture, { colorType })), [16])).toBe(16);
  }
});

function chunkAt(bytes: Uint8Array, type: string): number {
  return Buffer.from(bytes).indexOf(type, 'latin1');
}

/** A file of the right form whose pixels unpack to very much more than they should. */
function bomb(): Uint8Array {
  const good = png(16);
  const at = chunkAt(good, 'IDAT') - 4;
  const packed = zlibSync(new Uint8Array(200_000_000));
  const body = Buffer.concat([Buffer.from('IDAT', 'latin1'), packed]);
  const length = Buffer.alloc(4);
  length.writeUInt32BE(packed.length);
  const end = good.subarray(chunkAt(good, 'IEND') - 4);
  return Buffer.concat([good.subarray(0, at), length, body, checksum(body), end]);
}

/** As the standard's own example computes it. */
function checksum(bytes: Uint8Array): Buffer {
  let crc = 0xffffffff;
  for (const byte of bytes) {
    crc ^= byte;
    for (let k = 0; k < 8; k++) crc = crc & 1 ? 0xedb88320 ^ (crc >>> 1) : crc >>> 1;
  }
  const out = Buffer.alloc(4);
  out.writeUInt32BE((crc ^ 0xffffffff) >>> 0);
  return out;
}

test.each<[string, () => Uint8Array, RegExp, RegExp]>([
  ['no picture', () => new TextEncoder().encode('not a picture at all'), /no PNG/, /draw one/],
  ['nothing', () => new Uint8Array(), /no PNG/, /draw one/],
  ['a JPEG', () => Uint8Array.of(0xff, 0xd8, 0xff, 0xe0, 0, 16), /no PNG/, /draw one/],
  ['one that is not square', () => png(64, 32), /64 × 32 pixels: it is not square/, /square/],
  ['one of another size', () => png(100), /100 × 100 pixels/, /64 × 64 or 128 × 128/],
  ['one that is cut off', () => png(64).subarray(0, 90), /damaged/, /again/],
  [
    'one with a byte that is other',
    () => png(64).map((b, i) => (i === 60 ? b ^ 4 : b)),
    /damaged/,
    /again/,
  ],
  ['only a header', () => png(64).subarray(0, 33), /damaged/, /again/],
  ['a huge file', () => new Uint8Array(4_000_001), /more than 4 MB/, /smaller/],
])('%s is refused', (_, bytes, message, hint) => {
  const refusal = (() => {
    try {
      checkIcon(bytes(), [64, 128]);
    } catch (error) {
      return error as { message: string; hint: string };
    }
    throw new Error('taken');
  })();
  expect(refusal.message).toMatch(message);
  expect(refusal.hint).toMatch(hint);
});

test('pixels that unpack to very much more are given up on the way', () => {
  const bytes = bomb();
  const before = process.memoryUsage().arrayBuffers;
  expect(() => checkIcon(bytes, [16])).toThrow(/damaged/);
  expect(process.memoryUsage().arrayBuffers - before).toBeLessThan(120e6);
});

test('of a given icon nothing is kept but its picture, which is decoded', () => {
  const good = png(16);
  const chunk = (type: string, data: Uint8Array | string) => {
    const body = Buffer.concat([Buffer.from(type, 'latin1'), Buffer.from(data)]);
    const length = Buffer.alloc(4);
    length.writeUInt32BE(body.length - 4);
    return Buffer.concat([length, body, checksum(body)]);
  };
  const at = chunkAt(good, 'IDAT') - 4;
  const more = ['tEXt', 'iTXt', 'eXIf', 'iCCP', 'acTL', 'prVt'].map((type) =>
    chunk(type, 'where I live'),
  );
  const full = Buffer.concat([good.subarray(0, at), ...more, good.subarray(at)]);
  const plain = plainIcon(new Uint8Array(full), [16]);
  expect(Buffer.from(plain).includes('where I live')).toBe(false);
  expect(PNG.sync.read(Buffer.from(plain)).data.equals(PNG.sync.read(full).data)).toBe(true);
  for (const colorType of [0, 2, 4, 6] as const) {
    for (const bitDepth of [8, 16] as const) {
      const picture = PNG.sync.write(new PNG({ width: 16, height: 16 }), { colorType, bitDepth });
      expect(plainIcon(new Uint8Array(picture), [16]).length).toBeLessThanOrEqual(picture.length);
    }
  }
  // Of the right length, and no picture all the same: a row has a filter that there is not.
  const rows = new Uint8Array(16 * 65).fill(9);
  const idat = chunk('IDAT', zlibSync(rows));
  const wrong = Buffer.concat([good.subarray(0, at), idat, chunk('IEND', '')]);
  expect(() => plainIcon(new Uint8Array(wrong), [16])).toThrow(/damaged/);
});

test('a large icon is drawn in a moment, and is the small one spread', () => {
  const begun = performance.now();
  const large = PNG.sync.read(Buffer.from(drawnIcon('Marrow Skerry', 2_048)));
  const small = PNG.sync.read(Buffer.from(drawnIcon('Marrow Skerry', 512)));
  expect(performance.now() - begun).toBeLessThan(60_000);
  const at = (picture: PNG, x: number, y: number) => [
    ...picture.data.subarray((y * picture.width + x) * 4, (y * picture.width + x) * 4 + 4),
  ];
  for (const [x, y] of [
    [256, 256],
    [40, 256],
    [10, 10],
    [300, 200],
  ] as const) {
    const [wanted, is] = [at(small, x, y), at(large, x * 4 + 2, y * 4 + 2)];
    is.forEach((part, i) => expect(Math.abs(part - wanted[i]!)).toBeLessThan(60));
  }
});
