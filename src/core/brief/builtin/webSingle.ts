import type { BriefText } from '../schema';

/** One format for every browser, as the rest of a page's instructions often say. */
export const webSingle: BriefText = {
  id: 'web-single',
  version: 1,
  title: 'Web page, one format',
  purpose: 'A page that wants every sound as an MP3, and only as that.',
  about:
    'Pages and shops with a form to upload sounds ask for this, often in one line of a long text: MP3 for all, ' +
    '44.1 kHz, stereo. What is sent otherwise is refused, or converted once more by somebody else. The usual mistake ' +
    'is to overlook that line and to send the files that the last page wanted.',
  suits: { places: ['page'], loops: false, rooms: ['some', 'plenty'] },
  files: [
    {
      id: 'mp3',
      writer: 'mp3',
      settings: { kbps: 192 },
      sampleRatesHz: [44_100],
      channels: [2],
      isConstant: true,
    },
  ],
  notes: [
    'An MP3 has some silence in front and behind that players do not all take away: nothing that loops.',
  ],
};
