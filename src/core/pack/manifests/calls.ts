import { callsText } from '../calls/calls';
import { manifest } from './kind';

export const callIndex = manifest({
  id: 'calls',
  title: 'Index of calls',
  about: 'What a game plays by which id.',
  is: 'json',
  path: 'calls.json',
  fields: {
    calls: 'everything that can be played',
    'calls[].id': 'what the game asks for',
    'calls[].variants': 'one of these is picked by its odds each time',
    'calls[].variants[].path': 'the file, from the root of the pack',
    'calls[].variants[].odds': 'how often it is picked, as against the others',
    'calls[].levelDb': 'louder or quieter, in dB',
    'calls[].pitch': 'lowest and highest factor of speed and pitch; picked anew each time',
    'calls[].read': '“whole”: taken in at once; “piecewise”: read while it plays',
  },
  text: ({ calls }) => callsText(calls),
});
