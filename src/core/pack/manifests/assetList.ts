import { manifest } from './kind';

export const assetList = manifest({
  id: 'asset-list',
  title: 'Asset list',
  about: 'Every sound with its facts, for programs that load them.',
  is: 'json',
  path: 'assets.json',
  fields: {
    title: 'the title of the pack',
    assets: 'the sounds, in the order of their paths',
    'assets[].path': 'where it lies',
    'assets[].sha256': 'of the file, in hexadecimal',
    'assets[].bytes': 'of the file',
    'assets[].type': 'the MIME type, with the codec',
    'assets[].frames': 'samples of every channel',
    'assets[].sampleRateHz': 'in Hz',
    'assets[].channels': '1 for mono, 2 for stereo',
    'assets[].seconds': 'how long it is',
    'assets[].loop': 'null, or where it repeats: start and length in frames',
    'assets[].tags': 'title, artist and what else the file says of itself',
    'assets[].sound': 'its name in the project, and its group',
    'assets[].source': 'the file that it was made of, and its sha256',
  },
  text: ({ title, sounds }) => {
    const assets = sounds.map((one) => ({
      path: one.path,
      sha256: one.sha256,
      bytes: one.bytes,
      type: one.mimeType,
      frames: one.frames,
      sampleRateHz: one.sampleRateHz,
      channels: one.channels,
      seconds: one.seconds,
      loop: one.loop && {
        start: one.loop.startFrame,
        length: one.loop.endFrame - one.loop.startFrame,
        ...(one.loop.isBackAndForth && { backAndForth: true }),
        ...(one.loop.isBackward && { backward: true }),
        ...(one.loop.times !== undefined && { times: one.loop.times }),
      },
      tags: one.tags,
      sound: { name: one.name, group: one.group },
      source: { name: one.source.name, sha256: one.source.sha256 },
    }));
    return `${JSON.stringify({ title, assets }, null, 2)}\n`;
  },
});
