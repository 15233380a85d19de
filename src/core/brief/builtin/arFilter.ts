import type { BriefText } from '../schema';

/** Stand-in for hosts of camera filters: they take exactly one kind of file and say nothing of others. */
export const arFilter: BriefText = {
  id: 'ar-filter',
  version: 4,
  title: 'AR filter',
  purpose: 'A filter on a phone camera that plays a sound with its effect.',
  about:
    'Makers of camera filters are asked for this: the filter’s host plays mono AAC at 44.1 kHz and nothing else. ' +
    'Anything else is not refused; it just never appears in the list, or stays silent on the phone. The usual ' +
    'mistake is a stereo file, or one at 48 kHz, that plays everywhere else.',
  suits: { places: ['phone'], loops: true, rooms: ['some'] },
  mostSeconds: 120,
  files: [
    {
      id: 'm4a',
      writer: 'm4a',
      settings: { kbps: 96 },
      sampleRatesHz: [44_100],
      channels: [1],
    },
  ],
  layout: {
    fields: [
      {
        id: 'level',
        title: 'Level in the host',
        about: 'From 0 to 100; 100 leaves the files as loud as they are.',
        value: 100,
      },
      {
        id: 'hint',
        title: 'Hint on the screen',
        about:
          'Comes when the filter is opened, and goes with the first tap: the host begins muted.',
        value: 'Tap to hear',
        longest: 40,
      },
    ],
    texts: [{ path: 'settings.txt', manifest: 'host-settings' }],
  },
  host: 'filter',
  notes: [
    'The host keeps quiet about files it does not take: a stereo or 48 kHz file simply never appears.',
    'Sound stays muted until the person taps; show a hint on the screen.',
  ],
};
