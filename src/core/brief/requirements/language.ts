import { either } from '../../tradeNames';
import type { Requirement } from './requirement';

/** The language that a sound is in, where a destination has a place for each. */
export const language: Requirement = {
  id: 'language',
  isAhead: true,
  judge({ language: found = null }, _, { languages }) {
    if (!languages) return null;
    const wanted = either(languages);
    if (found === null) {
      return {
        verdict: 'decide',
        found: 'not said',
        wanted,
        sentence: `Say which language it is in: the destination has a place for ${wanted}.`,
      };
    }
    const met = languages.includes(found);
    return {
      verdict: met ? 'met' : 'cannot',
      found,
      wanted,
      sentence: met
        ? `It is in “${found}”, and goes to its place.`
        : `It is in “${found}”; the destination takes ${wanted} alone.`,
    };
  },
};
