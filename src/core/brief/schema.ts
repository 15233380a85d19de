import * as yup from 'yup';
import { tagNames, type TagName } from '../marks';
import { oneOfKeys } from '../recipe/steps/choice';
import { acceptedValues } from './accepted';
import { layoutSchema } from './layout';

/** What this Bijou writes; what a newer one has added is kept, and said. */
export const SCHEMA = 4;

/** How languages are named: "en", "pt-br". */
export const LANGUAGE = /^[a-z]{2,3}(-[a-z0-9]{2,8})*$/;

const word = yup.string().matches(/^[a-z0-9-]+$/);
const positive = yup.number().positive();
const wholePositive = yup.number().integer().positive();

/** One file that a brief wants of each sound, as it is written. What is left out is as the source has it. */
const briefFile = yup.object({
  /** Unique in the brief. */
  id: word.required(),
  /** The writer that makes it, and its settings. Container and codec are the writer's. */
  writer: yup.string().required(),
  settings: yup.object().required(),
  /** Further writers, the files of which are taken as they are. */
  alsoTakes: yup.array(yup.string().required()).max(100).optional(),
  /** Accepted sample rates in Hz, the preferred one first. */
  sampleRatesHz: acceptedValues(wholePositive.required()),
  /** Accepted channel counts, the preferred one first. */
  channels: yup.array(yup.number().integer().min(1).max(8).required()).min(1).max(8).optional(),
  /** Accepted bits per sample; left out where the codec has none. */
  bitDepths: yup.array(yup.number().integer().required()).min(1).max(50).optional(),
  /** Accepted bit rates in kbit/s, and whether they have to stay the same all the time. */
  bitRatesKbps: acceptedValues(positive.required()),
  isConstant: yup.boolean().optional(),
  /** The ending of its name where it is another than usual, without the dot; empty for none. */
  ending: yup
    .string()
    .matches(/^[\w-]{0,16}$/)
    .optional(),
});

const level = yup.object({
  /** True peak that is not gone beyond, in dBTP, and what is turned down for it. */
  peakDbtp: yup.number().min(-60).max(0).optional(),
  by: yup
    .string()
    .oneOf(['all', 'moments'] as const)
    .optional(),
  /** Loudness in LUFS, met within so many LU. */
  lufs: yup.number().min(-70).max(0).optional(),
  toleranceLu: yup.number().min(0.1).max(20).optional(),
  /** Where decoding rises above the ceiling it is not encoded again, a little quieter. */
  isFixed: yup.boolean().optional(),
});

const loop = yup.object({
  /** Where a loop has to be marked. */
  marked: yup
    .string()
    .oneOf(['file', 'manifest', 'forbidden'] as const)
    .optional(),
  /** Every sound has to have one. */
  isNeeded: yup.boolean().optional(),
  /** The least score of its seam, 0 to 100. */
  leastSeamScore: yup.number().min(1).max(100).optional(),
});

const names = yup.object({
  /** Name without its ending, with tokens: see `pack/pattern`. */
  pattern: yup.string().min(1).max(200).optional(),
  case: yup
    .string()
    .oneOf(['lower', 'upper'] as const)
    .optional(),
  /** Characters that may be in it, as a list with ranges: "a-z0-9_-". */
  characters: yup.string().min(1).max(200).optional(),
  /** What stands in the place of those that may not. */
  joiner: yup.string().max(1).optional(),
  /** Most characters, with the ending. */
  longest: yup.number().integer().min(1).max(255).optional(),
  /** What becomes of two that meet; they are numbered unless something else is said. */
  meeting: yup
    .string()
    .oneOf(['number', 'refuse'] as const)
    .optional(),
});

const tags = yup.object({
  /** Which of the source's stay; all where nothing is said. */
  keep: yup
    .array(
      yup
        .mixed<TagName>()
        .oneOf([...tagNames])
        .required(),
    )
    .optional(),
  /** What is set, with the tokens that names have. */
  set: yup
    .object(
      Object.fromEntries(
        tagNames.map((name) => [name, yup.string().min(1).max(400).optional()]),
      ) as Record<TagName, yup.StringSchema<string | undefined>>,
    )
    // Those of a newer Bijou as well.
    .test('texts', '${path} must hold texts by the names of tags', holdsTexts)
    .optional()
    .default(undefined),
});

function holdsTexts(value: object | undefined): boolean {
  return Object.values(value ?? {}).every((one) => one === undefined || typeof one === 'string');
}

/** Where a destination plays, how much room it has, whether its sounds loop: what people choose by. */
export const placesOfPlay = {
  page: 'on a web page',
  phone: 'in a filter on a phone',
  game: 'in a game',
  gadget: 'in a small device or toy',
  people: 'with people who work on, or on a shelf',
} as const;
export const rooms = {
  tight: 'every kilobyte counts',
  some: 'smaller is better',
  plenty: 'size does not matter',
} as const;

const suits = yup.object({
  places: yup.array(oneOfKeys(placesOfPlay).required()).max(20).required(),
  loops: yup.boolean().required(),
  rooms: yup.array(oneOfKeys(rooms).required()).max(20).required(),
});

/** What a destination accepts, as data that people can read, write and share. */
export const briefSchema = yup.object({
  /** Of this form of a brief; 1 where nothing is said. */
  schema: wholePositive.optional(),
  id: word.max(80).required(),
  version: wholePositive.required(),
  title: yup.string().max(200).required(),
  /** One sentence: who takes these files. */
  purpose: yup.string().max(1_000).required(),
  /** In plain words: who asks for this, what happens when it is wrong, which mistake is usual. */
  about: yup.string().max(4_000).optional(),
  files: yup.array(briefFile.required()).min(1).max(16).required(),
  /** Shortest and longest sound, largest file, and most bytes of all files, where there is a limit. */
  leastSeconds: positive.optional(),
  mostSeconds: positive.optional(),
  mostBytes: wholePositive.optional(),
  mostTotalBytes: wholePositive.optional(),
  level: level.optional().default(undefined),
  loop: loop.optional().default(undefined),
  names: names.optional().default(undefined),
  /** Folder inside of the brief's own, with the tokens that names have. */
  folder: yup.string().min(1).max(200).optional(),
  tags: tags.optional().default(undefined),
  /** How its files lie together, and what lies beside them. */
  layout: layoutSchema.optional().default(undefined),
  /** Languages in which every line is wanted: "en", "pt-br". */
  languages: yup.array(yup.string().matches(LANGUAGE).required()).min(1).max(200).optional(),
  suits: suits.optional().default(undefined),
  /** The stand-in that takes its packs, by the id of the host: every build is rehearsed there. */
  host: word.max(40).optional(),
  /** What people should know before they deliver. */
  notes: yup.array(yup.string().max(1_000).required()).max(200).default([]),
});

/** A brief as it is written. */
export type BriefText = yup.InferType<typeof briefSchema>;
export type BriefTextFile = BriefText['files'][number];
export type NameDemands = NonNullable<BriefText['names']>;

/** One file of a brief, with what its writer knows of it. */
export interface BriefFile extends BriefTextFile {
  container: string;
  codec: string;
  /** Ending of its name, without the dot. */
  extension: string;
  /** Whether it holds what lies above full scale. */
  holdsBeyond: boolean;
}

/** A brief as it is used: complete, and held against what its writers can make. */
export interface Brief extends Omit<BriefText, 'files'> {
  files: BriefFile[];
}
