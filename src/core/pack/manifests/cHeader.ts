import * as yup from 'yup';
import { cText } from '../texts/kinds/c';
import type { PackedSound } from '../data';
import { manifest } from './kind';

const options = yup.object({
  /** The bytes of every file are in it, as arrays. */
  withBytes: yup.boolean().optional(),
  /** Stands in front of every name. */
  prefix: yup
    .string()
    .matches(/^[a-zA-Z_][a-zA-Z0-9_]*$/)
    .optional(),
});

const PER_LINE = 16;

export const cHeader = manifest<yup.InferType<typeof options>>({
  id: 'c-header',
  title: 'C header',
  about: 'Sizes and offsets of all files, for devices that hold them in memory.',
  is: 'c',
  path: 'sounds.h',
  fields: {
    SOUND_COUNT: 'how many files there are',
    SOUND_BYTES: 'what they come to together',
    SOUND_NAME: 'its place in the list, from 0; one for each file, by its name',
    'sounds[].name': 'the file’s name',
    'sounds[].offset': 'where it begins when all files lie one behind the other in this order',
    'sounds[].bytes': 'of the file',
    'sounds[].frames': 'samples of every channel',
    'sounds[].rate': 'in Hz',
    'sounds[].channels': '1 for mono',
    'sounds[].data': 'the bytes of the file; only where the layout asks for them',
  },
  options,
  needsBytes: ({ withBytes = false }) => withBytes,
  text({ title, sounds }, { withBytes = false, prefix = 'SOUND' }, bytesOf) {
    const names = identifiers(sounds);
    const total = sounds.reduce((sum, { bytes }) => sum + bytes, 0);
    const guard = `${prefix.toUpperCase()}_LIST_H`;
    let offset = 0;
    const rows = sounds.map(({ path, bytes, frames, sampleRateHz, channels }, i) => {
      const data = withBytes ? `, ${names[i]!.toLowerCase()}_data` : '';
      const row = `  { "${escaped(path)}", ${offset}UL, ${bytes}UL, ${frames}UL, ${sampleRateHz}UL, ${channels}${data} }`;
      offset += bytes;
      return row;
    });
    return [
      `/* ${escaped(title)} */`,
      `#ifndef ${guard}`,
      `#define ${guard}`,
      '',
      `#define ${prefix}_COUNT ${sounds.length}`,
      `#define ${prefix}_BYTES ${total}UL`,
      ...names.map((name, i) => `#define ${prefix}_${name} ${i}`),
      '',
      ...(withBytes ? sounds.flatMap((one, i) => array(names[i]!, bytesOf(one.sha256))) : []),
      'struct sound_entry {',
      '  const char *name;',
      '  unsigned long offset;',
      '  unsigned long bytes;',
      '  unsigned long frames;',
      '  unsigned long rate;',
      '  unsigned char channels;',
      ...(withBytes ? ['  const unsigned char *data;'] : []),
      '};',
      '',
      // C has no empty arrays.
      ...(rows.length > 0
        ? [
            `static const struct sound_entry sounds[${prefix}_COUNT] = {`,
            rows.join(',\n'),
            '};',
            '',
          ]
        : []),
      '#endif',
      '',
    ].join('\n');
  },
});

function array(name: string, bytes: Uint8Array): string[] {
  const lines: string[] = [];
  for (let at = 0; at < bytes.length; at += PER_LINE) {
    lines.push(`  ${[...bytes.subarray(at, at + PER_LINE)].join(', ')}`);
  }
  return [
    `static const unsigned char ${name.toLowerCase()}_data[${bytes.length}] = {`,
    lines.join(',\n'),
    '};',
    '',
  ];
}

function escaped(text: string): string {
  return cText.inAscii!(cText.escaped(text));
}

/** A name for each file that C takes: no two are the same, and none is a name of the header's own. */
function identifiers(sounds: readonly PackedSound[]): string[] {
  const taken = new Set(['COUNT', 'BYTES']);
  const counts = new Map<string, number>();
  return sounds.map(({ path }) => {
    const base =
      path
        .replace(/\.[^./]*$/, '')
        .normalize('NFKD')
        .replace(/[^a-zA-Z0-9]+/g, '_')
        .replace(/^_+|_+$/g, '')
        .toUpperCase()
        .slice(0, 60) || 'FILE';
    const first = /^\d/.test(base) ? `N${base}` : base;
    let name = first;
    // Counting goes on where it was: a thousand alike are not counted a thousand times.
    let n = counts.get(first) ?? 2;
    for (; taken.has(name); n++) name = `${first}_${n}`;
    counts.set(first, n);
    taken.add(name);
    return name;
  });
}
