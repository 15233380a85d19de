import { listened, type VersionProvider } from './types';

/** The sound as it came in. */
export const sourceVersion: VersionProvider = ({ sound, source }) => [
  {
    key: `source-${sound.id}`,
    // The source is named, so that nothing is taken for what it was before it was replaced.
    content: sound.sourceSha256,
    label: 'Source',
    ...listened(source),
    loudness: sound.facts?.lufs ?? sound.facts?.rmsDbfs ?? null,
    url: `/api/sounds/${sound.id}/pcm?of=${sound.sourceSha256}`,
    toSource: (frame) => frame,
    fromSource: (frame) => frame,
  },
];
