/** What templates can say, each with what it stands for. */
export const templateNames = {
  title: 'the title of the pack',
  project: 'the project’s name',
  brief: 'the brief: brief.id, brief.version and brief.title',
  icon: 'the path of the icon',
  bytes: 'what all sounds come to',
  count: 'how many they are',
  sounds:
    'every sound: path, name, group, bytes, sha256, frames, seconds, rate, channels, type; loop with start and length',
  calls: 'every call: id, level, low, high, read; variants with path and odds',
  notes: 'what the brief says to those who deliver',
  '(fields)': 'the fields of the layout, by their ids',
  'first, last, number': 'in lists: whether it is the first or last one, and its number from 1',
} as const;
