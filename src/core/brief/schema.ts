import * as yup from 'yup';

/** One file that a brief wants of each sound. */
const briefFile = yup.object({
  /** Unique in the brief. */
  id: yup
    .string()
    .matches(/^[a-z0-9-]+$/)
    .required(),
  container: yup.string().required(),
  codec: yup.string().required(),
  /** The writer that makes it, and its settings. */
  writer: yup.string().required(),
  settings: yup.object().required(),
  /** Accepted sample rates in Hz, the preferred one first. */
  sampleRatesHz: yup.array(yup.number().integer().positive().required()).min(1).required(),
  /** Accepted channel counts, the preferred one first. */
  channels: yup.array(yup.number().integer().min(1).max(8).required()).min(1).required(),
  /** Accepted bits per sample; left out where the codec has none. */
  bitDepths: yup.array(yup.number().integer().required()).optional(),
  /** Ending of its name, without the dot. */
  extension: yup
    .string()
    .matches(/^[a-z0-9]+$/)
    .required(),
});

/** What a destination accepts, as data that people can read, change and share. */
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

export type Brief = yup.InferType<typeof briefSchema>;
export type BriefFile = Brief['files'][number];
