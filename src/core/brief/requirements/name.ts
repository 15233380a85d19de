import { allowedCharacters } from '../../pack/characters';
import type { Brief, BriefFile } from '../schema';
import type { Requirement } from './requirement';

/** The name of a finished file, with its ending. */
export const name: Requirement = {
  id: 'name',
  isOfFinished: true,
  judge({ fileName }, file, brief) {
    if (fileName === undefined) return null;
    const wanted = nameDemand(brief, file);
    if (wanted === null) return null;
    const wrong = wrongName(fileName, brief, file);
    return {
      verdict: wrong === null ? 'met' : 'convert',
      found: fileName,
      wanted,
      sentence: wrong === null ? 'Its name is as wanted.' : `“${fileName}” ${wrong}.`,
    };
  },
};

/** What a brief demands of names, in words; null for nothing. */
function nameDemand({ names = {} }: Brief, file: BriefFile): string | null {
  const { case: letterCase, characters, longest } = names;
  const parts = [
    letterCase ? `${letterCase} case` : '',
    characters === undefined ? '' : `characters ${characters}`,
    longest === undefined ? '' : `at most ${longest} characters`,
    file.ending === undefined ? '' : file.ending === '' ? 'no ending' : `ending .${file.ending}`,
  ].filter(Boolean);
  return parts.length === 0 ? null : parts.join(', ');
}

/** What is wrong with a name, as the end of a sentence; null when nothing is. */
function wrongName(fileName: string, { names = {} }: Brief, file: BriefFile): string | null {
  const { case: letterCase, characters, longest = Infinity } = names;
  const dot = fileName.lastIndexOf('.');
  const [base, ending] =
    dot > 0 ? [fileName.slice(0, dot), fileName.slice(dot + 1)] : [fileName, ''];
  if (letterCase === 'lower' && fileName !== fileName.toLowerCase()) return 'has a capital letter';
  if (letterCase === 'upper' && base !== base.toUpperCase()) return 'has a small letter';
  if (characters !== undefined) {
    const isAllowed = allowedCharacters(characters);
    const strange = [...base].find((letter) => !isAllowed(letter));
    if (strange !== undefined) return `has “${strange}” in it, which names there may not have`;
  }
  if ([...fileName].length > longest) return `is longer than ${longest} characters`;
  if (file.ending !== undefined && ending !== file.ending) {
    return file.ending === ''
      ? 'has an ending, and is to have none'
      : `does not end in .${file.ending}`;
  }
  return null;
}
