import { completeBrief } from '@/core/brief/complete';
import type { Layout } from '@/core/brief/layout';
import type { Brief, BriefText } from '@/core/brief/schema';
import type { PackedSound } from '@/core/pack/data';
import type { PartFile, PartInput } from '@/core/pack/input';

/** A brief for Ogg files with a layout. */
export function briefWith(layout: Layout, more: Partial<BriefText> = {}): Brief {
  return completeBrief({
    id: 'isle',
    version: 2,
    title: 'Isle',
    purpose: 'A game.',
    files: [{ id: 'ogg', writer: 'ogg', settings: { quality: 5 } }],
    notes: [],
    layout,
    ...more,
  });
}

/** A finished file of a sound, as a destination gets it. */
export function partFile(
  soundId: number,
  path: string,
  { slots = [], ...more }: Partial<PackedSound> & { slots?: string[] } = {},
): PartFile {
  const name = path
    .split('/')
    .at(-1)!
    .replace(/\.[^.]*$/, '');
  return {
    soundId,
    name,
    group: '',
    seconds: 2,
    fileId: 'ogg',
    paths: slots.length > 0 ? slots : [path],
    slots,
    made: {
      briefId: 'isle',
      briefVersion: 2,
      fileId: 'ogg',
      sha256: String(soundId).repeat(64).slice(0, 64),
      bytes: 1_000 + soundId,
      soundId,
      name,
      group: '',
      labels: [],
      language: null,
      container: 'ogg',
      codec: 'vorbis',
      mimeType: 'audio/ogg; codecs=vorbis',
      sampleRateHz: 44_100,
      channels: 1,
      bitDepth: null,
      frames: 88_200,
      seconds: 2,
      loop: null,
      loopParts: null,
      tags: {},
      source: { name: `${name}.wav`, sha256: 'f'.repeat(64), tags: {} },
      tempo: null,
      piece: null,
      sheet: null,
      ...more,
    },
  };
}

/** What one destination gets. */
export function part(
  brief: Brief,
  files: readonly PartFile[],
  more: Partial<PartInput> = {},
): PartInput {
  return {
    brief,
    project: 'Marrow Skerry',
    settings: {},
    files,
    icon: null,
    bytesOf: () => Uint8Array.of(1, 2, 255),
    ...more,
  };
}
