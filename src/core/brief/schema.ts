import * as yup from 'yup';

/** One file that a brief wants of each sound, as it is written. */
const briefFile = yup
  .object({
    /** Unique in the brief. */
    id: yup
      .string()
      .matches(/^[a-z0-9-]+$/)
      .required(),
    /** The writer that makes it, and its settings. Container, codec and ending are the writer's. */
    writer: yup.string().required(),
    settings: yup.object().required(),
    /** Accepted sample rates in Hz, the preferred one first. */
    sampleRatesHz: yup.array(yup.number().integer().positive().required()).min(1).required(),
    /** Accepted channel counts, the preferred one first. */
    channels: yup.array(yup.number().integer().min(1).max(8).required()).min(1).required(),
    /** Accepted bits per sample; left out where the codec has none. */
    bitDepths: yup.array(yup.number().integer().required()).optional(),
  })
  .noUnknown();

/** What a destination accepts, as data that people can read, write and share. */
export const briefSchema = yup
  .object({
    id: yup
      .string()
      .matches(/^[a-z0-9-]+$/)
      .required(),
    version: yup.number().integer().positive().required(),
    title: yup.string().required(),
    /** One sentence: who takes these files. */
    purpose: yup.string().required(),
    files: yup.array(briefFile.required()).min(1).required(),
    /** Longest sound and largest file that are taken, where there is a limit. */
    mostSeconds: yup.number().positive().optional(),
    mostBytes: yup.number().integer().positive().optional(),
    /** What people should know before they deliver. */
    notes: yup.array(yup.string().required()).default([]),
  })
  .noUnknown();

/** A brief as it is written. */
export type BriefText = yup.InferType<typeof briefSchema>;
export type BriefTextFile = BriefText['files'][number];

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
