import { count } from './tradeNames';

/** Everything that is counted in sentences, with how it is called when there are several. */
const plurals = {
  archive: 'archives',
  'archive inside an archive': 'archives inside an archive',
  beat: 'beats',
  bit: 'bits',
  byte: 'bytes',
  call: 'calls',
  candidate: 'candidates',
  cell: 'cells',
  change: 'changes',
  'changed file': 'changed files',
  'changed file that was not wanted': 'changed files that were not wanted',
  channel: 'channels',
  click: 'clicks',
  'click was': 'clicks were',
  cost: 'costs',
  'earlier build': 'earlier builds',
  'empty archive': 'empty archives',
  'encrypted entry': 'encrypted entries',
  'entry that points out of its archive': 'entries that point out of their archive',
  field: 'fields',
  file: 'files',
  'file that is no sound': 'files that are no sounds',
  frame: 'frames',
  'hidden file': 'hidden files',
  line: 'lines',
  link: 'links',
  'listed sound': 'listed sounds',
  marker: 'markers',
  other: 'others',
  'other way': 'other ways',
  pack: 'packs',
  part: 'parts',
  'part of the sound': 'parts of the sound',
  pass: 'passes',
  place: 'places',
  problem: 'problems',
  reason: 'reasons',
  'resource fork': 'resource forks',
  run: 'runs',
  sample: 'samples',
  'sample is no number': 'samples are no numbers',
  slot: 'slots',
  sound: 'sounds',
  'sound that was taken out': 'sounds that were taken out',
  'source that was replaced': 'sources that were replaced',
  step: 'steps',
  text: 'texts',
  thing: 'things',
  thread: 'threads',
  trial: 'trials',
  variant: 'variants',
  voice: 'voices',
} as const;

export type Word = keyof typeof plurals;

/** So many of something, in words: "1 frame", "44,100 frames". */
export function plural(n: number, one: Word): string {
  return `${count(n)} ${n === 1 ? one : plurals[one]}`;
}
