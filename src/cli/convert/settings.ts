import { filledSettings, writerFor } from '@/core/formats/write';
import { tagNames, tidyTags, type TagName, type Tags } from '@/core/marks';
import { numberOption, wrong } from './numbers';
import type { ConvertOptions } from './options';

/** Writer and those of its settings that the options ask for. @throws wrong-call for options that do not go together. */
export function writerSettings(options: ConvertOptions): { writer: string; settings: object } {
  const kind = writerFor(options.format ?? 'wav', options.codec);
  if (options.bitrate !== undefined && options.quality !== undefined) {
    throw wrong('--bitrate and --quality exclude each other.', 'Give one of them.');
  }
  const known = Object.keys(kind.settings.fields);
  const asked = settingOptions.flatMap((option) => {
    const text = options[option.name];
    if (text === undefined) return [];
    const key = option.keys.find((name) => known.includes(name));
    if (key !== undefined) return [[key, option.read(text, key)] as const];
    const takes = settingOptions.filter(({ keys }) => keys.some((name) => known.includes(name)));
    throw wrong(
      `--${option.name} means nothing for ${kind.name}.`,
      takes.length > 0
        ? `${kind.name} takes --${takes.map(({ name }) => name).join(' or --')}.`
        : `${kind.name} has no settings.`,
    );
  });
  const settings = Object.fromEntries(asked);
  // What is wrong with them by themselves is said before any file is opened.
  filledSettings(kind, settings);
  return { writer: kind.id, settings };
}

interface SettingOption {
  name: 'bits' | 'bitrate' | 'quality' | 'level';
  /** Which of a writer's settings it sets. */
  keys: readonly string[];
  read(text: string, key: string): unknown;
}

const plain = (name: SettingOption['name'], key: string): SettingOption => ({
  name,
  keys: [key],
  read: (text) => numberOption(name, text),
});

const settingOptions: readonly SettingOption[] = [
  { name: 'bits', keys: ['bits', 'encoding'], read: readBits },
  plain('bitrate', 'kbps'),
  plain('quality', 'quality'),
  plain('level', 'level'),
];

function readBits(text: string, key: string): unknown {
  const byKey: Record<string, Record<string, unknown>> = {
    bits: { '8': 8, '16': 16, '24': 24, '32f': 32 },
    encoding: { u8: 'u8', s8: 's8', s16le: 's16le', '8': 'u8', '16': 's16le' },
  };
  const choices = byKey[key] ?? {};
  if (text in choices) return choices[text];
  throw wrong(`--bits cannot be "${text}".`, `Choose ${Object.keys(choices).join(', ')}.`);
}

/** Tags that are to be written in place of the source's. */
export function tagOptions({ tag = [] }: ConvertOptions): Tags {
  const found: Partial<Record<TagName, string>> = {};
  for (const text of tag) {
    const equals = text.indexOf('=');
    const name = tagNames.find((known) => known === text.slice(0, Math.max(0, equals)));
    if (!name) {
      throw wrong(
        `--tag cannot be "${text}".`,
        `Write name=text, with one of ${tagNames.join(', ')}.`,
      );
    }
    // An empty text clears the tag.
    found[name] = tidyTags({ [name]: text.slice(equals + 1) })[name] ?? '';
  }
  return found;
}
