import { cueSheetOf, cueSheetText } from '../../loop/cueSheet';
import type { ManifestData } from '../data';
import { manifest } from './kind';
import { pieceSets } from './sets';

function sheetsOf({ sounds }: ManifestData) {
  return pieceSets(sounds, 'wav').map(({ name, pieces }) => {
    const [first] = pieces;
    return cueSheetOf({
      name,
      sampleRateHz: first!.sampleRateHz,
      channels: first!.channels,
      tempo: first!.tempo,
      pieces: pieces.map(({ piece: { piece }, path, frames }) => ({ piece, file: path, frames })),
      repeatCarriesTail: first!.piece.repeatCarriesTail,
      listeningCopy: null,
    });
  });
}

const fields = {
  cueSheet: 'the edition of this form: 1',
  name: 'of the piece of music',
  sampleRateHz: 'in Hz; all lengths are in frames of it',
  channels: '2 for stereo',
  tempo: 'beats a minute and beats a bar, where somebody has said them',
  pieces: 'intro, first pass and repeat pass, in the order in which they are heard',
  'pieces[].file': 'where it lies',
  'pieces[].plays': '“once”, or “around”: again and again',
  'pieces[].startFrame': 'where it is heard for the first time',
  'pieces[].frames': 'how long it is',
  'pieces[].seconds': 'the same in seconds',
  repeatCarriesTail: 'whether what rings behind the end lies under the start of the repeat',
};

export const cueSheets = manifest({
  id: 'cue-sheet',
  title: 'Cue sheet',
  about: 'How intro, first pass and repeat of each piece follow one another, for programs.',
  is: 'json',
  path: 'cues.json',
  fields: { sheets: 'one for each piece of music', ...fields },
  text: (data) => `${JSON.stringify({ sheets: sheetsOf(data) }, null, 2)}\n`,
});

export const cueText = manifest({
  id: 'cue-text',
  title: 'Cue sheet in words',
  about: 'The same for people.',
  is: 'text',
  path: 'cues.txt',
  fields: { '(lines)': 'each file with how it is played and how long it is' },
  text(data) {
    const sheets = sheetsOf(data);
    if (sheets.length === 0)
      return 'No piece of this pack is cut into intro, first pass and repeat.\n';
    return sheets.map(cueSheetText).join('\n\n');
  },
});
