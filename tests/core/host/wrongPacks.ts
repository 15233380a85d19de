import { drawnIcon } from '@/core/pack/icon/draw';
import { patched } from './patched';
import {
  aac,
  bytesOfText,
  callIndex,
  descriptor,
  filterFiles,
  modFiles,
  sound,
  vorbis,
  type Files,
} from './making';

/** A pack with one fault, and the only rule by which it is refused. */
export interface WrongPack {
  what: string;
  files: Files;
  rule: string;
  file: string;
}

type Change = Record<string, Uint8Array | string | null>;

async function listed(
  make: (change: Change) => Promise<Files>,
  list: readonly [what: string, rule: string, file: string, change: Change][],
): Promise<WrongPack[]> {
  return Promise.all(
    list.map(async ([what, rule, file, change]) => ({
      ...{ what, rule, file },
      files: await make(change),
    })),
  );
}

const isle = (change: object) => ({ 'isle.json': JSON.stringify({ ...descriptor, ...change }) });
const GULL = 'creatures/gull_1.ogg';

/** Packs that the mod island refuses. */
export async function wrongMods(): Promise<WrongPack[]> {
  const ogg = await vorbis();
  const right = await modFiles();
  const inside = Object.fromEntries(Object.entries(right).map(([path, b]) => [`storm/${path}`, b]));
  const many = `{"calls":[${Array(1_000_000).fill('{}').join(',')}]}`;
  const mp3 = await sound('mp3', { kbps: 128 });
  const list = await listed(modFiles, [
    ['an MP3 that was renamed', 'container', GULL, { [GULL]: mp3 }],
    [
      'Opus inside of the Ogg',
      'codec',
      GULL,
      { [GULL]: await sound('ogg-opus', { kbps: 64 }, { rateHz: 48_000 }) },
    ],
    ['another rate', 'rate', GULL, { [GULL]: await vorbis({ rateHz: 22_050 }) }],
    ['six channels', 'channels', GULL, { [GULL]: patched.channelsOgg(ogg, 6) }],
    ['a sound of eleven minutes', 'length', GULL, { [GULL]: patched.longOgg(ogg, 11 * 60) }],
    ['a sound without its end', 'undamaged', GULL, { [GULL]: ogg.slice(0, ogg.length * 0.6) }],
    ['a flipped bit', 'undamaged', GULL, { [GULL]: patched.flipped(ogg, 0.7) }],
    ['text in the place of a sound', 'container', GULL, { [GULL]: '<html>no such file</html>' }],
    ['a capital letter', 'name', 'creatures/Owl.ogg', { 'creatures/Owl.ogg': ogg }],
    ['an older edition than any', 'edition', 'isle.json', isle({ edition: 1 })],
    ['an edition in quotes', 'descriptor', 'isle.json', isle({ edition: '3' })],
    ['no title', 'descriptor', 'isle.json', isle({ title: '' })],
    [
      'a comma missing',
      'descriptor',
      'isle.json',
      { 'isle.json': JSON.stringify(descriptor, null, 1).replace(',', '') },
    ],
    [
      'a mark in front of a text',
      'encoding',
      'isle.json',
      { 'isle.json': `\ufeff${JSON.stringify(descriptor)}` },
    ],
    [
      'a text in Latin-1',
      'encoding',
      'credits.txt',
      { 'credits.txt': Uint8Array.of(0x63, 0xe9, 0x0a) },
    ],
    ['brackets without end', 'descriptor', 'isle.json', { 'isle.json': '{"a":'.repeat(1e5) }],
    ['a list in its place', 'descriptor', 'isle.json', { 'isle.json': '[1, 2]' }],
    ['brackets without end in the index', 'calls', 'calls.json', { 'calls.json': '['.repeat(1e6) }],
    ['no icon', 'icon', 'isle.json', { 'icon.png': null }],
    ['an icon of another size', 'icon', 'icon.png', { 'icon.png': drawnIcon('S', 100) }],
    ['an icon that is text', 'icon', 'icon.png', { 'icon.png': 'icon' }],
    ['no index', 'calls', 'isle.json', { 'calls.json': null }],
    [
      'an index with a quote missing',
      'calls',
      'calls.json',
      { 'calls.json': callIndex(['gull', GULL]).replace('"id"', 'id"') },
    ],
    [
      'a call with a capital letter',
      'calls',
      'calls.json',
      { 'calls.json': callIndex(['Gull', GULL]) },
    ],
    [
      'a call of what is not there',
      'call-files',
      'calls.json',
      { 'calls.json': callIndex(['owl', 'owl.ogg']) },
    ],
    ['a million calls', 'calls', 'calls.json', { 'calls.json': many }],
    [
      'an index of a hundred megabytes',
      'encoding',
      'calls.json',
      { 'calls.json': new Uint8Array(1e8) },
    ],
    ['no music for a place', 'slot', 'places/shore.ogg', { 'places/shore.ogg': null }],
    [
      'a script for a name',
      'path',
      '<script>alert(1)<script>.ogg',
      { '<script>alert(1)<script>.ogg': ogg },
    ],
    ['a path that climbs', 'path', '../../evil.ogg', { '../../evil.ogg': ogg }],
    ['a path from the root of a disk', 'path', '/etc/evil.ogg', { '/etc/evil.ogg': ogg }],
  ]);
  return [
    ...list,
    { what: 'everything in a folder', rule: 'root', file: 'pack.zip', files: inside },
    { what: 'a pack for the filter', rule: 'host', file: 'pack.zip', files: await filterFiles() },
    { what: 'nothing at all', rule: 'root', file: 'pack.zip', files: {} },
  ];
}

const BELL = 'bell.m4a';

/** Packs that the filter stage refuses. */
export async function wrongFilters(): Promise<WrongPack[]> {
  const m4a = await aac();
  const wav = await sound('wav', { bits: 16 });
  const list = await listed(filterFiles, [
    ['a stereo file', 'channels', BELL, { [BELL]: await aac({ channels: 2 }) }],
    ['48 kHz', 'rate', BELL, { [BELL]: await aac({ rateHz: 48_000 }) }],
    ['a WAV', 'container', 'bell.wav', { 'bell.wav': wav }],
    ['a WAV that was renamed', 'container', BELL, { [BELL]: wav }],
    ['an MP3 that was renamed', 'container', BELL, { [BELL]: await sound('mp3', { kbps: 128 }) }],
    ['another ending', 'ending', 'bell.mp4', { 'bell.mp4': m4a }],
    ['two minutes and ten seconds', 'length', BELL, { [BELL]: await aac({ seconds: 130 }) }],
    ['a file without its end', 'undamaged', BELL, { [BELL]: m4a.slice(0, m4a.length * 0.6) }],
    ['an empty file', 'undamaged', BELL, { [BELL]: new Uint8Array() }],
    ['text in the place of a sound', 'container', BELL, { [BELL]: 'bell' }],
    [
      'settings in UTF-16',
      'encoding',
      'settings.txt',
      { 'settings.txt': Uint8Array.of(0xff, 0xfe, 65, 0) },
    ],
    ['a path that climbs', 'path', '../bell.m4a', { '../bell.m4a': m4a }],
    ['the same name but for its case', 'path', 'Bell.m4a', { 'Bell.m4a': m4a }],
  ]);
  return [
    ...list,
    { what: 'a mod', rule: 'host', file: 'pack.zip', files: await modFiles() },
    { what: 'nothing at all', rule: 'sounds', file: 'pack.zip', files: {} },
    {
      what: 'texts alone',
      rule: 'sounds',
      file: 'pack.zip',
      files: { 'read me.txt': bytesOfText('hello') },
    },
  ];
}
