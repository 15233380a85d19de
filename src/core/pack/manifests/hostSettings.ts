import { formatTime } from '../../time';
import { manifest } from './kind';

export const hostSettings = manifest({
  id: 'host-settings',
  title: 'What to set in the host',
  about:
    'For each sound what is chosen by hand where it is put in: how it starts, whether it repeats.',
  is: 'text',
  path: 'settings.txt',
  fields: {
    '(file)': 'each file with its length',
    loop: 'on for what has a loop',
    level: '0 to 100; 100 as the files were levelled here',
    start: 'by a tap, for hosts begin muted',
    hint: 'what to show until somebody taps',
  },
  text: ({ title, sounds, fields }) =>
    [
      `${title}: what to set in the host`,
      '',
      ...sounds.flatMap(({ path, seconds, loop }) => [
        path,
        `  length: ${formatTime(seconds)}`,
        `  loop: ${loop ? 'on' : 'off'}`,
        `  level: ${fields['level'] ?? 100}`,
        '  start: by a tap; the host begins muted',
        '',
      ]),
      `Hint on the screen: ${fields['hint'] ?? 'Tap to hear'}`,
      '',
    ].join('\n'),
});
