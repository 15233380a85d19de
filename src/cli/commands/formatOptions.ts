import type { Command } from 'commander';

/** What every command takes that writes files: how they are stored, beside their format. */
export function formatOptions(command: Command): Command {
  return command
    .option('--codec <codec>', 'where a format has several: pcm, ima-adpcm, vorbis, opus …')
    .option('--bits <depth>', 'WAV: 8, 16, 24, 32f; AIFF, FLAC: 8, 16, 24; raw, c: u8, s8, s16le')
    .option('--bitrate <kbps>', 'MP3, M4A, Opus: kbit/s')
    .option('--quality <q>', 'Vorbis: −1 (small) to 10 (best); MP3: 0 (best) to 9 (small)')
    .option('--level <n>', 'FLAC: 0 (quick) to 8 (small)')
    .option('--rate <hz>', 'sample rate in Hz; as the source without it');
}
