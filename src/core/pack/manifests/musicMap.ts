import { manifest } from './kind';
import { pieceSets } from './sets';

export const musicMap = manifest({
  id: 'music-map',
  title: 'Map of the music',
  about: 'How the files of each piece of music follow one another.',
  is: 'json',
  path: 'music.json',
  fields: {
    music: 'every piece of music',
    'music[].name': 'of the sound in the project',
    'music[].sampleRateHz': 'in Hz; all places are in frames of it',
    'music[].plays':
      'what is played, in this order; each begins on the frame on which the one before it ends',
    'music[].plays[].path': 'the file',
    'music[].plays[].part': '“intro”, “first”, “repeat”, or “whole” for a file that is all of it',
    'music[].plays[].again': 'whether it is played again and again',
    'music[].plays[].frames': 'how long the file is',
    'music[].plays[].loop':
      'null, or the stretch inside of the file that repeats: start and length',
  },
  text({ sounds }) {
    const sets = pieceSets(sounds).map(({ name, pieces }) => ({
      name,
      sampleRateHz: pieces[0]!.sampleRateHz,
      plays: pieces.map(({ path, frames, piece: { piece } }) => ({
        path,
        part: piece as string,
        again: piece === 'repeat',
        frames,
        loop: null as { start: number; length: number } | null,
      })),
    }));
    const whole = sounds
      .filter(({ piece }) => !piece)
      .map(({ name, sampleRateHz, path, frames, loop }) => ({
        name,
        sampleRateHz,
        plays: [
          {
            path,
            part: 'whole',
            again: loop !== null,
            frames,
            loop: loop && { start: loop.startFrame, length: loop.endFrame - loop.startFrame },
          },
        ],
      }));
    return `${JSON.stringify({ music: [...sets, ...whole] }, null, 2)}\n`;
  },
});
