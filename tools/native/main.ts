import { execFileSync } from 'node:child_process';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { MemorySink } from '@/core/bytes/source';
import { writeSound } from '@/core/formats/write';
import { pcmFromChannels } from '@/core/pcm/pcm';
import { tonesAndNoise } from '../bench/signal';
import { aacPackets, adtsFile } from '../made/aac';

/**
 * `npm run native`: measures what C libraries need to decode, for `core/compare/nativeCost.ts`. Needs a C compiler and
 * Debian's libflac-dev, libmpg123-dev, libvorbis-dev, libopusfile-dev and libfaad-dev.
 */
const RATE = 44_100;
const SECONDS = 60;
const LIBRARIES = ['FLAC', 'mpg123', 'vorbisfile', 'opusfile', 'faad', 'm'];

const forms = [
  ['pcm', 'raw', { encoding: 's16le' }, RATE],
  ['ima-adpcm', 'wav-ima-adpcm', {}, RATE],
  ['flac', 'flac', { bits: 16 }, RATE],
  ['mp3', 'mp3', { kbps: 128 }, RATE],
  ['vorbis', 'ogg', { quality: 4 }, RATE],
  ['opus', 'ogg-opus', { kbps: 128 }, 48_000],
] as const;

async function main(): Promise<void> {
  const folder = await mkdtemp(join(tmpdir(), 'bijou-native-'));
  try {
    const program = join(folder, 'decode');
    const libraries = LIBRARIES.map((name) => `-l${name}`);
    const source = join('tools', 'native', 'decode.c');
    execFileSync('cc', ['-O2', '-I/usr/include/opus', '-o', program, source, ...libraries]);
    const cost = (codec: string, file: string) =>
      Number(execFileSync(program, [codec, file], { encoding: 'utf8' }).split(' ')[0]);
    const found = new Map<string, number>();
    for (const [codec, writer, settings, rateHz] of forms) {
      const sink = new MemorySink();
      const sound = pcmFromChannels(tonesAndNoise(rateHz, SECONDS, 2), rateHz);
      await writeSound(sound, writer, settings, sink);
      const file = join(folder, codec);
      await writeFile(file, sink.bytes());
      found.set(codec, cost(codec, file));
    }
    const { packets } = await aacPackets(tonesAndNoise(RATE, SECONDS, 2), RATE);
    const file = join(folder, 'aac');
    await writeFile(file, adtsFile(packets, RATE, 2));
    found.set('aac', cost('aac', file));
    const mp3 = found.get('mp3')!;
    for (const [codec, ms] of found) {
      console.log(
        `${codec}: ${ms.toFixed(3)} ms a second of stereo, ${(ms / mp3).toFixed(2)} × MP3`,
      );
    }
  } finally {
    await rm(folder, { recursive: true });
  }
}

await main();
