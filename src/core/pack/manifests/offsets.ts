import { manifest } from './kind';

export const offsetSheet = manifest({
  id: 'offsets',
  title: 'Sheet of offsets',
  about: 'Where the sounds lie in files that were joined of several.',
  is: 'json',
  path: 'offsets.json',
  fields: {
    files: 'every file that was joined of several sounds',
    'files[].path': 'where it lies',
    'files[].sampleRateHz': 'in Hz',
    'files[].frames': 'of the whole file',
    'files[].sounds': 'what is in it, from its beginning on',
    'files[].sounds[].name': 'of the sound',
    'files[].sounds[].startFrame': 'where it begins',
    'files[].sounds[].frames': 'how long it is',
    'files[].sounds[].startSeconds': 'the same in seconds',
    'files[].sounds[].seconds': 'the same in seconds',
  },
  text: ({ sounds }) => {
    const files = sounds.flatMap(({ path, sampleRateHz, frames, sheet }) =>
      sheet && sheet.length > 1 ? [{ path, sampleRateHz, frames, sounds: sheet }] : [],
    );
    return `${JSON.stringify({ files }, null, 2)}\n`;
  },
});
