import * as yup from 'yup';
import { oneOfKeys } from '../recipe/steps/choice';

/** How the letters of a text are written down. */
const encodings = {
  'utf-8': 'UTF-8, without a mark in front',
  ascii: 'ASCII alone',
} as const;

/** What a text can claim to be, with its name. */
export const textNames = {
  json: 'JSON',
  yaml: 'YAML',
  xml: 'XML',
  html: 'HTML',
  css: 'CSS',
  c: 'C',
  csv: 'CSV',
  ini: 'INI',
  text: 'plain text',
} as const;
export type TextId = keyof typeof textNames;

const path = yup.string().min(1).max(240);
const positive = yup.number().integer().positive();

const slot = yup.object({
  /** Exactly where the file has to lie. */
  path: path.required(),
  /** What is heard there, for people. */
  title: yup.string().max(200).optional(),
  /** It may stay empty. */
  isOptional: yup.boolean().optional(),
});

const field = yup.object({
  /** The name that templates know it by. */
  id: yup
    .string()
    .matches(/^[a-z][a-zA-Z0-9]{0,39}$/)
    .required(),
  title: yup.string().max(100).required(),
  about: yup.string().max(400).optional(),
  /** What it is until somebody says otherwise. */
  value: yup.mixed<string | number>(isFieldValue).required(),
  /** Where only some values will do. */
  oneOf: yup.array(yup.mixed<string | number>(isFieldValue).required()).min(1).max(500).optional(),
  /** Most characters. */
  longest: positive.max(10_000).optional(),
});

const icon = yup.object({
  path: path.required(),
  /** Accepted widths, which are also heights, in pixels; the first is the one that is drawn. */
  sizes: yup.array(positive.max(4_096).required()).min(1).max(20).required(),
});

const text = yup.object({
  path: path.required(),
  /** What it is for. */
  title: yup.string().max(200).optional(),
  encoding: oneOfKeys(encodings).optional(),
  /** One of the manifests that Bijou writes … */
  manifest: yup.string().max(40).optional(),
  options: yup.object().optional().default(undefined),
  /** … or a template with what it claims to be. */
  template: yup.string().max(200_000).optional(),
  is: oneOfKeys(textNames).optional(),
});

const calls = yup.object({
  /** Characters that ids may have, as a list with ranges: "a-z0-9_/-". */
  characters: yup.string().min(1).max(200).optional(),
  /** How they are made of names until somebody says otherwise. */
  way: yup
    .string()
    .oneOf(['variants', 'each', 'folders'] as const)
    .optional(),
});

/** How the files of a destination lie together, and what lies beside them. */
export const layoutSchema = yup.object({
  /** The folder that everything lies in; at the root of the pack where nothing is said. */
  inFolder: path.optional(),
  slots: yup.array(slot.required()).max(2_000).optional(),
  /** Sounds without a slot lie beside under names of their own, unless they are refused. */
  others: yup
    .string()
    .oneOf(['beside', 'refuse'] as const)
    .optional(),
  /** Most characters of the title, where it goes to a descriptor. */
  longestTitle: positive.max(1_000).optional(),
  /** What else is asked of people. */
  fields: yup.array(field.required()).max(50).optional(),
  icon: icon.optional().default(undefined),
  texts: yup.array(text.required()).max(50).optional(),
  calls: calls.optional().default(undefined),
});

export type Layout = yup.InferType<typeof layoutSchema>;
export type LayoutSlot = NonNullable<Layout['slots']>[number];
export type LayoutField = NonNullable<Layout['fields']>[number];
export type LayoutText = NonNullable<Layout['texts']>[number];

function isFieldValue(value: unknown): value is string | number {
  return typeof value === 'string' || (typeof value === 'number' && Number.isFinite(value));
}
