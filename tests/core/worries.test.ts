import { unmeasured, type ListedFacts } from '@/core/measure/probe';
import { worriesOf } from '@/core/measure/worries';

/** Each worry at its edge: the last value that worries nobody, the first that does, its sentence and its cure. */

const RATE = 48_000;

const clicking = {
  score: 12.3,
  levelStepDb: 3,
  slopeStepDb: -30,
  loudnessDifferenceLu: 0,
  timbreDifference: 0,
};

/** A sound of two seconds with nothing wrong, and what differs from it. */
function facts(other: Partial<ListedFacts> = {}): ListedFacts {
  return {
    ...unmeasured,
    container: 'wav',
    codec: 'pcm',
    sampleRateHz: RATE,
    channels: 2,
    bitDepth: 16,
    frames: 2 * RATE,
    seconds: 2,
    bytes: 384_044,
    bitRateKbps: 1_536,
    peakDbfs: -3,
    rmsDbfs: -20,
    correlation: 0.2,
    lufs: -20,
    usedBits: 16,
    bandwidthHz: 23_000,
    ...other,
  };
}

function found(other: Partial<ListedFacts>, fileName: string | null = null) {
  return worriesOf(facts(other), fileName);
}

const codes = (other: Partial<ListedFacts>, fileName: string | null = null) =>
  found(other, fileName).map(({ code }) => code);

function run(startFrame: number) {
  return { channel: 0, startFrame, frames: 4 };
}

test('nothing wrong worries nobody', () => {
  expect(codes({}, 'wind.WAV')).toEqual([]);
  expect(codes({}, null)).toEqual([]);
});

test('the edges of what worries', () => {
  const other = { where: 'its INFO list', rateHz: 44_100 };
  const edges: [string, Partial<ListedFacts>, Partial<ListedFacts>][] = [
    ['lossy-before', { shelfHz: 14_799 }, { shelfHz: 14_800 }],
    ['lossy-before', { shelfHz: 20_901 }, { shelfHz: 20_900 }],
    [
      'lossy-before',
      { shelfHz: 15_900, sampleRateHz: 31_999 },
      { shelfHz: 15_900, sampleRateHz: 32_000 },
    ],
    ['clipped', { clippedRuns: 0 }, { clippedRuns: 1, clippedPlaces: [run(0)] }],
    ['loop-clicks', { seam: { ...clicking, levelStepDb: -60 } }, { seam: clicking }],
    ['silent-head', { headSilenceSeconds: 0.0999 }, { headSilenceSeconds: 0.1 }],
    ['silent-tail', { tailSilenceSeconds: 0.4999 }, { tailSilenceSeconds: 0.5 }],
    ['rate-doubtful', { otherRates: [] }, { otherRates: [other] }],
    ['opposite-polarity', { correlation: -0.5 }, { correlation: -0.501 }],
    ['very-quiet', { lufs: -40, peakDbfs: -30 }, { lufs: -40.1, peakDbfs: -30 }],
    ['very-quiet', { lufs: -50, peakDbfs: -20 }, { lufs: -50, peakDbfs: -20.1 }],
    ['very-quiet', { lufs: null, peakDbfs: -40 }, { lufs: null, peakDbfs: -40.1 }],
    ['dc-offset', { dcOffset: -0.0149 }, { dcOffset: -0.015 }],
    ['dc-offset', { dcOffset: 0.0105, peakDbfs: -20 }, { dcOffset: 0.0115, peakDbfs: -20 }],
    ['dc-offset', { dcOffset: 0.02, seconds: 0.01 }, { dcOffset: 0.02, seconds: 1 }],
    ['unused-bits', { bitDepth: 24, usedBits: 17 }, { bitDepth: 24, usedBits: 16 }],
    ['unused-bits', { bitDepth: 24, usedBits: 0 }, { bitDepth: 24, usedBits: 1 }],
    ['unused-bits', { bitDepth: 24, usedBits: null }, { bitDepth: 16, usedBits: 8 }],
    // Nine twentieths of 16 kHz are 7,200 Hz; the next rates above are too close to 22,050 Hz.
    [
      'spare-rate',
      { bandwidthHz: 7_201, sampleRateHz: 22_050 },
      { bandwidthHz: 7_200, sampleRateHz: 22_050 },
    ],
    ['spare-rate', { bandwidthHz: 9_923 + 4_478 }, { bandwidthHz: 14_400 }],
    ['spare-rate', { bandwidthHz: 900, peakDbfs: null }, { bandwidthHz: 900 }],
  ];
  for (const [code, alright, wrong] of edges) {
    expect([code, alright, codes(alright).includes(code)]).toEqual([code, alright, false]);
    expect([code, wrong, codes(wrong)]).toEqual([code, wrong, [code]]);
  }
});

test('what was coded with loss may end in a shelf, and IMA ADPCM uses the bits that it likes', () => {
  for (const codec of ['mp3', 'aac', 'vorbis', 'opus']) {
    expect([codec, codes({ codec, shelfHz: 16_000 })]).toEqual([codec, []]);
  }
  for (const codec of ['pcm', 'float', 'flac', 'alac']) {
    expect([codec, codes({ codec, shelfHz: 16_000 })]).toEqual([codec, ['lossy-before']]);
  }
  expect(codes({ codec: 'ima-adpcm', bitDepth: 16, usedBits: 4 })).toEqual([]);
});

test('silence is said once, as such', () => {
  const silence = {
    peakDbfs: null,
    rmsDbfs: null,
    correlation: null,
    lufs: null,
    bandwidthHz: null,
    usedBits: 0,
    headSilenceSeconds: 2,
    tailSilenceSeconds: 2,
    identicalChannels: true,
    dcOffset: 0.01,
  };
  expect(found(silence)).toEqual([
    {
      code: 'silent',
      name: 'silent',
      sentence: 'There is nothing but silence in it.',
      cure: [],
    },
  ]);
  // All of it lies below what counts as silence at the ends, and it is not nothing.
  const quiet = { headSilenceSeconds: 2, tailSilenceSeconds: 2, peakDbfs: -62, lufs: -75 };
  expect(codes(quiet)).toEqual(['very-quiet']);
  expect(codes({ ...quiet, headSilenceSeconds: 1.99 })).toEqual(['silent-head', 'very-quiet']);
});

test('polarity is a matter of two channels', () => {
  expect(codes({ channels: 4, correlation: -0.9 })).toEqual([]);
  expect(codes({ channels: 1, correlation: null })).toEqual([]);
});

test('sentences and cures', () => {
  const said = (other: Partial<ListedFacts>, name: string | null = null) => {
    const [worry] = found(other, name);
    return [worry!.name, worry!.sentence, worry!.cure];
  };
  const step = (kind: string, params: object = {}) => [{ kind, on: true, params }];
  expect(said({}, 'x.mp3')).toEqual([
    'wrong ending',
    'Its name says MP3, but inside it is WAV with PCM.',
    [],
  ]);
  expect(said({ shelfHz: 15_960 })[1]).toMatch(/ends in a shelf at 16 kHz/);
  expect(said({ clippedRuns: 1, clippedPlaces: [run(RATE)] })).toEqual([
    'clipped',
    'It is clipped in 1 place, first at 0:01.000.',
    [],
  ]);
  expect(said({ clippedRuns: 140, clippedPlaces: [run(24_000), run(30_000)] })[1]).toBe(
    'It is clipped in 140 places, first at 0:00.500.',
  );
  expect(said({ headSilenceSeconds: 0.25 })).toEqual([
    'silence in front',
    'It begins with 0.25 s of silence.',
    step('keep', { startFrame: 12_000, endFrame: 2 * RATE }),
  ]);
  expect(said({ tailSilenceSeconds: 0.75 })).toEqual([
    'silence behind',
    'It ends with 0.75 s of silence.',
    step('keep', { startFrame: 0, endFrame: 60_000 }),
  ]);
  expect(said({ otherRates: [{ where: 'its "fmt "', rateHz: 22_050 }] })).toEqual([
    'rate doubtful',
    'Its rate is labelled 48 kHz, but its "fmt " says 22.05 kHz. Listen whether it plays at the right speed.',
    step('relabel', { rateHz: 22_050 }),
  ]);
  expect(said({ identicalChannels: true })[2]).toEqual(step('channels', { mode: 'left' }));
  expect(said({ correlation: -0.876 })).toEqual([
    'opposite polarity',
    'Left and right work against each other (correlation −0.88): mixed to mono, they would mostly cancel.',
    step('channels', { mode: 'left' }),
  ]);
  expect(said({ lufs: -50, peakDbfs: -41.3 }).slice(1)).toEqual([
    'It is very quiet: its peak is −41.3 dBFS.',
    step('normalise', { to: 'true-peak', target: -1 }),
  ]);
  expect(said({ dcOffset: 0.0323, peakDbfs: -12 })[1]).toBe(
    'It lies off the middle by 3.23 % (DC offset), which costs 1.2 dB of level and clicks where it begins and ends.',
  );
  expect(said({ dcOffset: -0.0323 }).slice(1)).toEqual([
    'It lies off the middle by −3.23 % (DC offset), which clicks where it begins and ends.',
    step('offset'),
  ]);
  expect(said({ bitDepth: 24, usedBits: 9 })[1]).toBe(
    'Of its 24 bits 9 are used: a file of 16 bits holds the same.',
  );
  expect(said({ bitDepth: 24, usedBits: 8 })[1]).toMatch(/a file of 8 bits holds the same/);
  expect(said({ bandwidthHz: 3_456 }).slice(1)).toEqual([
    'There is nothing above 3.5 kHz: 8 kHz would hold all of it, and it is stored at 48 kHz.',
    step('resample', { rateHz: 8_000 }),
  ]);
  expect(said({ bandwidthHz: 3_601 })[2]).toEqual(step('resample', { rateHz: 11_025 }));
});

test('an ending that says what is inside, in whatever case and spelling, is none to worry about', () => {
  const inside = (container: string, codec: string, name: string) =>
    codes({ container, codec, bitDepth: null, usedBits: null }, name);
  expect(inside('matroska', 'opus', 'a.webm')).toEqual([]);
  expect(inside('webm', 'opus', 'a.WEBM')).toEqual([]);
  expect(inside('mp4', 'aac', 'a.b.m4a')).toEqual([]);
  expect(inside('mp4', 'aac', 'a.m4a.ogg')).toEqual(['name-disagrees']);
  expect(inside('mp4', 'aac', 'ogg')).toEqual([]);
  expect(inside('mp4', 'aac', 'wind.xyz')).toEqual([]);
  expect(inside('mp4', 'aac', 'wind.ogg?')).toEqual([]);
});

test('what its reader warned of stands first, with a name', () => {
  const warned = worriesOf(facts({ dcOffset: 0.1 }), null, [
    { code: 'truncated', message: 'Its end is missing.' },
    { code: 'something-new' as 'truncated', message: 'Odd.' },
  ]);
  expect(warned.map(({ code, name, sentence }) => [code, name, sentence])).toEqual([
    ['truncated', 'cut off', 'Its end is missing.'],
    ['something-new', 'odd', 'Odd.'],
    ['dc-offset', 'DC offset', expect.any(String)],
  ]);
  expect(warned[0]!.cure).toEqual([]);
});

test('a loop that clicks is crossfaded where there is room in front of it', () => {
  const [worry] = found({ seam: clicking, loop: { startFrame: 960, endFrame: 9_600 } });
  expect(worry).toMatchObject({
    sentence: 'Its loop clicks where it repeats: the seam scores 12 of 100.',
    cure: [{ kind: 'loop', params: { startFrame: 960, endFrame: 9_600, crossfadeFrames: 960 } }],
  });
  const [bare] = found({ seam: clicking, loop: { startFrame: 959, endFrame: 9_600 } });
  expect(bare!.cure).toEqual([]);
});
