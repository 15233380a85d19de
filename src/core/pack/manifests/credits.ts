import { groupBy } from '../../group';
import type { PackedSound } from '../data';
import { manifest } from './kind';

export const credits = manifest({
  id: 'credits',
  title: 'Credits',
  about: 'Who made the sounds and under which licence, as their files say.',
  is: 'text',
  path: 'credits.txt',
  fields: {
    '(author)': 'the artist that the source names',
    '(sounds)': 'what is by them, with its title and what the comment says, where licences stand',
  },
  text({ title, sounds }) {
    // Once each, however many files it has.
    const once = [...groupBy(sounds, ({ soundId }) => soundId).values()].map(([first]) => first!);
    const byArtist = groupBy(once, ({ source }) => source.tags.artist ?? '');
    const named = [...byArtist].filter(([artist]) => artist !== '').sort(byName);
    const unnamed = byArtist.get('') ?? [];
    return [
      `${title}: who made the sounds`,
      '',
      ...named.flatMap(([artist, own]) => [artist, ...own.map(line), '']),
      ...(unnamed.length > 0 ? ['Without a name in their files', ...unnamed.map(line), ''] : []),
    ].join('\n');
  },
});

function byName([a]: [string, unknown], [b]: [string, unknown]): number {
  return a < b ? -1 : 1;
}

function line({ name, source: { tags } }: PackedSound): string {
  const { title, album, year, comment } = tags;
  const called = title && title !== name ? `${name} (“${title}”)` : name;
  const more = [album, year, comment].filter(Boolean).map((text) => text!.replace(/\s+/g, ' '));
  return `- ${[called, ...more].join('; ')}`;
}
