import { builtinBriefs } from '@/core/brief/builtin';
import { destinationsBySound } from '@/core/brief/catalogue';
import { check, checkAhead, checkFinished } from '@/core/brief/check';
import { completeBrief } from '@/core/brief/complete';
import { needOf } from '@/core/brief/needs';
import { conversionSteps, findingsWith, obstacle } from '@/core/brief/plan';
import type { BriefText } from '@/core/brief/schema';
import type { CheckedFacts } from '@/core/brief/types';
import { planEnd, planText } from '@/core/encoding';
import { unmeasured } from '@/core/measure/probe';

const text: BriefText = {
  id: 'buoy',
  version: 1,
  title: 'Buoy',
  purpose: 'A buoy that plays.',
  mostSeconds: 2,
  mostBytes: 1_000,
  files: [
    {
      id: 'wav',
      writer: 'wav',
      settings: { bits: 16 },
      sampleRatesHz: [44_100, 48_000],
      channels: [1],
      bitDepths: [16],
    },
  ],
  notes: [],
};
const buoy = completeBrief(text);
const brief = (change: Partial<BriefText['files'][number]>) =>
  completeBrief({ ...text, files: [{ ...text.files[0]!, ...change }] });
const mp3 = brief({ writer: 'mp3', settings: {}, bitDepths: undefined });
const stereo = brief({ channels: [2] });
const deep = brief({ settings: { bits: 32 }, bitDepths: [32] });

const fits: CheckedFacts = {
  container: 'wav',
  codec: 'pcm',
  sampleRateHz: 44_100,
  channels: 1,
  bitDepth: 16,
  seconds: 2,
  bytes: 1_000,
  correlation: null,
};
const lossy = { bitDepth: null } as const;
const vorbis = { container: 'ogg', codec: 'vorbis', ...lossy };

/** Verdict and sentence of one requirement. */
function judged(requirement: string, change: Partial<CheckedFacts>, of = buoy) {
  const found = check({ ...fits, ...change }, of).find((one) => one.requirement === requirement);
  return found ? `${found.verdict}: ${found.sentence}` : null;
}

test('what fits meets everything, and says so', () => {
  expect(check(fits, buoy).map(({ requirement, verdict }) => [requirement, verdict])).toEqual(
    ['format', 'sample-rate', 'channels', 'bit-depth', 'length', 'bytes'].map((id) => [id, 'met']),
  );
});

test.each<[string, Partial<CheckedFacts>, RegExp, typeof buoy?]>([
  ['format', {}, /^met: It is WAV with PCM, as wanted\.$/],
  ['format', { container: 'aiff' }, /^convert: It is AIFF.* takes WAV with PCM\.$/],
  ['format', { codec: 'ima-adpcm', ...lossy }, /^convert: /],
  // Lossy before, but what it becomes loses nothing; and the other way round.
  ['format', vorbis, /^convert: It is Ogg with Vorbis; the destination takes WAV with PCM\.$/],
  ['format', {}, /^convert: It is WAV with PCM; the destination takes MP3\.$/, mp3],
  ['format', vorbis, /^convert: .* takes MP3\. It was lossy before and loses a little again/, mp3],
  ['format', { container: 'mp3', codec: 'mp3', ...lossy }, /^met: /, mp3],
  ['sample-rate', { sampleRateHz: 48_000 }, /^met: 48 kHz is accepted\.$/],
  [
    'sample-rate',
    { sampleRateHz: 96_000 },
    /^convert: Resampled from 96 kHz to 44\.1 kHz: .*same\. Nothing above 22\.05 kHz is kept\.$/,
  ],
  [
    'sample-rate',
    { sampleRateHz: 22_050 },
    /^convert: Resampled from 22\.05 kHz to 44\.1 kHz: the pitch stays the same\.$/,
  ],
  ['channels', {}, /^met: Mono is accepted\.$/],
  ['channels', { channels: 2 }, /^convert: Both channels are mixed to one, unless/],
  ['channels', { channels: 2, correlation: 0.9 }, /^convert: /],
  ['channels', { channels: 2, correlation: -0.05 }, /^convert: /],
  [
    'channels',
    { channels: 2, correlation: -0.06 },
    /^decide: .*\(correlation −0\.06\): mixed, they would partly cancel/,
  ],
  ['channels', {}, /^convert: The one channel is copied to both sides\.$/, stereo],
  ['channels', { channels: 2 }, /^met: Stereo is accepted\.$/, stereo],
  ['channels', { channels: 6 }, /^convert: 5\.1 is mixed down, so that nothing can clip\.$/],
  [
    'channels',
    { channels: 3, speakers: null },
    /^cannot: Nobody has said how 3 channels are mixed down\.$/,
  ],
  [
    'channels',
    { channels: 3, speakers: ['L', 'R', 'Tc'] },
    /^cannot: Nobody has said how L R Tc are mixed down\.$/,
  ],
  ['bit-depth', {}, /^met: 16-bit is accepted\.$/],
  ['bit-depth', { bitDepth: 24 }, /^convert: Written with 16 bits and dither\.$/],
  [
    'bit-depth',
    { bitDepth: 8 },
    /^convert: Written with 16 bits; the sound gains nothing and loses nothing\.$/,
  ],
  ['bit-depth', lossy, /^convert: Written with 16 bits and dither\.$/],
  [
    'bit-depth',
    { codec: 'float', bitDepth: 32 },
    /^convert: Written with 32 bits and dither\.$/,
    deep,
  ],
  ['bit-depth', { bitDepth: 32 }, /^met: /, deep],
  ['length', { seconds: 2.001 }, /^cannot: Too long: the destination takes at most 0:02\.000/],
  ['length', { seconds: 2 }, /^met: /],
  [
    'bytes',
    { bytes: 1_001 },
    /^cannot: Too large by 1 byte: the destination takes at most 1,000 bytes/,
  ],
  ['bytes', { bytes: 1_000 }, /^met: /],
])('%s of %j: %s', (requirement, facts, sentence, of = buoy) => {
  expect(judged(requirement, facts, of)).toMatch(sentence);
});

test('what a brief does not demand is not judged, nor the size of what will have another', () => {
  const free = completeBrief({ ...text, mostSeconds: undefined, mostBytes: undefined });
  const asked = (of: typeof buoy, facts = fits) => check(facts, of).map((one) => one.requirement);
  expect(asked(free)).toEqual(['format', 'sample-rate', 'channels', 'bit-depth']);
  expect(asked(mp3)).not.toContain('bit-depth');
  for (const other of [{ container: 'aiff' }, { codec: 'ima-adpcm' }]) {
    expect(asked(buoy, { ...fits, ...other })).not.toContain('bytes');
  }
  expect(checkAhead({ ...fits, bytes: 9_999 }, buoy).map((one) => one.requirement)).toEqual(
    asked(free).concat('length'),
  );
  expect(checkFinished(fits, { ...buoy, files: [] })).toEqual({ accepted: true, findings: [] });
});

describe('what is done for a file', () => {
  const shape = (channelCount: number, rateHz: number) => ({ channelCount, rateHz, frames: 9 });
  const file = buoy.files[0]!;
  test('only what has to be, and switched on', () => {
    expect(conversionSteps(shape(1, 48_000), file, {})).toEqual([]);
    expect(conversionSteps(shape(1, 22_050), file, {})).toEqual([
      { kind: 'resample', on: true, params: { rateHz: 44_100 } },
    ]);
    expect(conversionSteps(shape(2, 44_100), file, {})).toEqual([
      { kind: 'channels', on: true, params: { mode: 'mix' } },
    ]);
    expect(conversionSteps(shape(1, 44_100), stereo.files[0]!, { mono: 'left' })).toEqual([
      { kind: 'channels', on: true, params: { mode: 'stereo' } },
    ]);
  });

  test('a choice settles the mixdown of a stereo sound, and nothing else', () => {
    const told = (facts: Partial<CheckedFacts>, of = buoy, mono: 'left' | null = 'left') =>
      findingsWith({ ...fits, ...facts }, of, { mono: mono ?? undefined })
        .filter(({ verdict }) => verdict !== 'met')
        .map(({ requirement, verdict, sentence }) => [requirement, verdict, sentence]);
    const opposed = { channels: 2, correlation: -1 };
    const kept = ['channels', 'convert', 'Only the left channel is kept, as chosen.'];
    expect(told(opposed)).toEqual([kept]);
    expect(told({ channels: 2 })).toEqual([kept]);
    expect(told(opposed, buoy, null)).toEqual([['channels', 'decide', expect.anything()]]);
    expect(told({ channels: 2 }, buoy, null)).toEqual([
      ['channels', 'convert', expect.stringMatching(/^Both channels are mixed/)],
    ]);
    expect(told({ channels: 2 }, stereo)).toEqual([]);
    expect(told({ channels: 6 })).toEqual([
      ['channels', 'convert', expect.stringMatching(/mixed down/)],
    ]);
    expect(told({ channels: 3, speakers: null })).toEqual([
      ['channels', 'cannot', expect.anything()],
    ]);
    expect(told({ sampleRateHz: 8_000, channels: 2 })).toEqual([
      ['sample-rate', 'convert', expect.stringMatching(/^Resampled/)],
      kept,
    ]);
    const mixed = findingsWith({ ...fits, ...opposed }, buoy, { mono: 'mix' });
    expect(mixed.find(({ requirement }) => requirement === 'channels')!.sentence).toMatch(
      /mixed to one, as chosen/,
    );
  });

  test('why it cannot be built says whether somebody can settle it', () => {
    const stops = (facts: CheckedFacts) => obstacle(findingsWith(facts, buoy, {}), buoy);
    expect(stops(fits)).toBeNull();
    expect(stops({ ...fits, channels: 2, correlation: -1 })!.hint).toMatch(/^Make that choice/);
    expect(stops({ ...fits, seconds: 3 })!.hint).toMatch(/"Buoy" cannot be met/);
  });
});

describe('a lossy source that is what is wanted', () => {
  const facts = {
    ...unmeasured,
    ...fits,
    container: 'mp3',
    codec: 'mp3',
    bitDepth: null,
    frames: 88_200,
    bitRateKbps: 4,
    peakDbfs: -1,
    rmsDbfs: -9,
    correlation: null,
  };
  const reverse = (on: boolean) => ({ kind: 'reverse', on, params: {} });
  const isCopy = (change: object = {}, of = mp3) =>
    needOf(
      { sourceSha256: 'f', facts, warnings: [], recipe: { version: 1, steps: [] }, ...change },
      of,
      {},
    ).files[0]!.plan.isCopy;
  test('is handed on; a step, a warning or another demand makes it be encoded', () => {
    expect(isCopy()).toBe(true);
    expect(isCopy({ recipe: { version: 1, steps: [reverse(false)] } })).toBe(true);
    expect(isCopy({ recipe: { version: 1, steps: [reverse(false), reverse(true)] } })).toBe(false);
    expect(isCopy({ warnings: [{ code: 'clipped', message: '' }] })).toBe(false);
    expect(isCopy({ facts: { ...facts, bytes: 1_001 } })).toBe(false);
    expect(isCopy({ facts: { ...facts, sampleRateHz: 8_000 } })).toBe(false);
    expect(
      isCopy({ facts: { ...facts, container: 'wav', codec: 'pcm', bitDepth: 16 } }, buoy),
    ).toBe(false);
  });
  test('and its plan says which', () => {
    const plan = {
      sourceSha256: 'f',
      recipe: { version: 1 as const, steps: [] },
      writer: 'raw',
      settings: {},
    };
    expect(planEnd({ ...plan, isCopy: true })).toMatch(/^copy the file/);
    expect(planEnd({ ...plan, isCopy: false })).toMatch(/^encode with /);
    const flac = { ...plan, writer: 'flac', isCopy: false };
    expect(planText({ ...flac, settings: { level: 8, bits: 16 } })).toBe(
      planText({ ...flac, settings: { bits: 16, level: 8 } }),
    );
    expect(planText({ ...flac, settings: { level: 8, bits: 16 } })).not.toBe(
      planText({ ...flac, settings: { level: 7, bits: 16 } }),
    );
  });
});

test('where sounds go, by their titles', () => {
  const cells = [
    { soundId: 1, briefId: 'ar-filter' },
    { soundId: 2, briefId: 'archive' },
    { soundId: 1, briefId: 'of-tomorrow' },
  ];
  expect([...destinationsBySound(cells, builtinBriefs)]).toEqual([
    [1, ['AR filter', '“of-tomorrow”, not known here']],
    [2, ['Archive']],
  ]);
});
