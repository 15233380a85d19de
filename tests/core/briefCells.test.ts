import {
  cellState,
  inShort,
  isClipping,
  verdictInShort,
  type FileInShort,
  type NeedInShort,
} from '@/core/brief/cell';
import { expectedBytes, sizeKeyOf } from '@/core/brief/expected';
import { filledSettings, writerById } from '@/core/formats/write';
import type { Need, NeededFile } from '@/core/brief/needs';
import type { Finding, Verdict } from '@/core/brief/types';

const need: NeedInShort = { obstacle: null, isDecidable: false, clips: false, isCopied: false };
const obstacle = { code: 'not-allowed', message: 'No.', hint: 'Do something.' } as const;
const file = (change: Partial<FileInShort> = {}): FileInShort => ({
  ...{ state: 'done', upToDate: true, verdict: 'accepted' },
  ...change,
});
const finding = (requirement: string, verdict: Verdict): Finding => ({
  ...{ fileId: 'a', requirement, verdict, found: '', wanted: '', sentence: '' },
});

describe('the state of a cell', () => {
  test.each<[string, Partial<NeedInShort>, FileInShort[], number]>([
    ['convert', {}, [], 1],
    ['fits', { isCopied: true }, [], 1],
    ['cannot', { obstacle }, [], 1],
    ['decide', { obstacle, isDecidable: true }, [], 1],
    // Without an obstacle there is nothing to decide before it is built.
    ['convert', { isDecidable: true }, [], 1],
    ['working', {}, [file({ state: 'queued', verdict: null })], 1],
    ['working', {}, [file({ state: 'running', verdict: null })], 1],
    // What is being built was possible when it was begun.
    ['working', { obstacle }, [file({ state: 'running', verdict: null })], 1],
    ['convert', {}, [file({ state: 'running', verdict: null, upToDate: false })], 1],
    ['built', {}, [file()], 0],
    ['cannot', { obstacle }, [file()], 0],
    ['decide', {}, [file({ verdict: 'undecided' })], 1],
    ['decide', {}, [file(), file({ verdict: 'undecided' })], 0],
    ['failed', {}, [file({ verdict: 'refused' })], 1],
    ['failed', {}, [file({ state: 'failed', verdict: null })], 1],
    // An older try says nothing of what would be made now.
    ['convert', {}, [file({ state: 'failed', verdict: null, upToDate: false })], 1],
    ['outdated', {}, [file({ upToDate: false })], 1],
    ['outdated', {}, [file({ upToDate: false, verdict: 'refused' })], 1],
    ['outdated', {}, [file({ upToDate: false, verdict: 'undecided' })], 1],
    ['outdated', { isCopied: true }, [file({ upToDate: false })], 1],
    // One of two files is there.
    ['outdated', {}, [file()], 1],
    ['convert', {}, [file({ state: 'cancelled', verdict: null })], 1],
    ['fits', { isCopied: true }, [file({ state: 'cancelled', verdict: null })], 1],
    ['failed', {}, [file(), file({ state: 'failed', verdict: null })], 1],
    ['built', {}, [file(), file({ state: 'failed', verdict: null })], 0],
  ])('%s: %j, %j, %i missing', (state, change, files, missing) => {
    expect(cellState({ ...need, ...change }, files, missing)).toBe(state);
  });

  test('what it needs, in short', () => {
    const of = (findings: Finding[], copies: boolean[] = [false], given: object | null = null) =>
      inShort({
        ...{ obstacle: given, findings },
        files: copies.map((isCopy) => ({ plan: { isCopy } })),
      } as unknown as Need);
    expect(of([finding('rate', 'met'), finding('channels', 'convert')])).toEqual(need);
    expect(of([finding('loop', 'decide')], [true])).toEqual({
      ...need,
      isDecidable: true,
      isCopied: true,
    });
    expect(of([finding('loop', 'decide'), finding('rate', 'convert')]).isDecidable).toBe(true);
    expect(of([finding('loop', 'decide'), finding('size', 'cannot')]).isDecidable).toBe(false);
    expect(of([finding('size', 'cannot')]).isDecidable).toBe(false);
    expect(of([], [true, true]).isCopied).toBe(true);
    expect(of([], [true, false]).isCopied).toBe(false);
    expect(of([], [true], obstacle).obstacle).toEqual(obstacle);
    expect(of([finding('full-scale', 'decide')]).clips).toBe(true);
  });

  test('only what lies above full scale and waits for somebody clips', () => {
    expect(isClipping([finding('rate', 'met'), finding('full-scale', 'decide')])).toBe(true);
    expect(isClipping([finding('full-scale', 'met'), finding('peak', 'decide')])).toBe(false);
    expect(isClipping([])).toBe(false);
  });

  test('what a brief says of a finished file, in short', () => {
    const said = (accepted: boolean, ...verdicts: Verdict[]) =>
      verdictInShort({ accepted, findings: verdicts.map((verdict) => finding('x', verdict)) });
    expect(said(true, 'met')).toBe('accepted');
    expect(said(false, 'met', 'decide')).toBe('undecided');
    expect(said(false, 'cannot', 'decide')).toBe('undecided');
    expect(said(false, 'met', 'cannot')).toBe('refused');
    expect(said(false, 'convert')).toBe('refused');
  });
});

describe('what a file will come to', () => {
  const planned = (writer: string, settings: object, isCopy = false) =>
    ({
      plan: { writer, settings, isCopy },
      shape: { rateHz: 48_000, channelCount: 2, frames: 96_000 },
    }) as unknown as NeededFile;
  const ogg = planned('ogg', { quality: 3 });

  test('is its source where that is handed on, and what its length gives where that decides', () => {
    expect(expectedBytes(planned('ogg', {}, true), 1_234, [9])).toEqual({
      ...{ least: 1_234, most: 1_234, basis: 'exact' },
    });
    expect(expectedBytes(planned('wav', { bits: 16 }), 5, [9])).toEqual({
      ...{ least: 384_000, most: 384_500, basis: 'exact' },
    });
  });

  test('is told by its neighbours: their mean, and how far they lie from it', () => {
    // Of 10, 12 and 14 kB a second the mean is 12, the standard deviation of the sample 2; two seconds of that.
    expect(expectedBytes(ogg, 5, [10_000, 12_000, 14_000])).toEqual({
      ...{ least: 20_000, most: 28_500, basis: 'neighbours' },
    });
    expect(expectedBytes(ogg, 5, [8_000])).toEqual({
      ...{ least: 12_000, most: 20_500, basis: 'neighbours' },
    });
    expect(expectedBytes(ogg, 5, [100, 30_000]).least).toBe(0);
  });

  test('is otherwise what such files usually come to', () => {
    const { least, most, basis } = expectedBytes(ogg, 5, []);
    expect(basis).toBe('usual');
    // A quality of 3 is about 112 kbit/s in stereo; two seconds.
    expect(least).toBeGreaterThan(5_000);
    expect(least).toBeLessThan(28_000);
    expect(most).toBeGreaterThan(28_000);
    expect(most).toBeLessThan(60_000);
  });

  test('ways of making a file are told apart, settings that were left out or not', () => {
    const key = sizeKeyOf('mp3', {}, 44_100, 2);
    expect(sizeKeyOf('wav', {}, 44_100, 2)).not.toBe(key);
    expect(sizeKeyOf('mp3', {}, 48_000, 2)).not.toBe(key);
    expect(sizeKeyOf('mp3', {}, 44_100, 1)).not.toBe(key);
    expect(sizeKeyOf('mp3', { kbps: 64 }, 44_100, 2)).not.toBe(key);
    expect(sizeKeyOf('mp3', filledSettings(writerById('mp3'), {}), 44_100, 2)).toBe(key);
    expect(sizeKeyOf('ogg', { quality: 5 }, 44_100, 2)).not.toBe(
      sizeKeyOf('ogg', { quality: 6 }, 44_100, 2),
    );
  });
});
