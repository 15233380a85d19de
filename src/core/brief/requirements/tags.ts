import { tagNames } from '../../marks';
import type { Requirement } from './requirement';

/** Tags that have to go, and those that are set. */
export const tags: Requirement = {
  id: 'tags',
  judge({ tags: found, wantedTags }, _, { tags: demand }) {
    if (!demand || !found) return null;
    const has = tagNames.filter((name) => found[name] !== undefined);
    const wantedNames = tagNames.filter((name) => wantedTags?.[name] !== undefined);
    // A file from elsewhere is asked only for what is the same for all of them.
    const kept = demand.keep ?? tagNames;
    const set = Object.keys(demand.set ?? {});
    const loose = has.filter((name) => !kept.includes(name) && !set.includes(name));
    const missing = wantedTags
      ? wantedNames.filter((name) => found[name] !== wantedTags[name])
      : tagNames.filter((name) => set.includes(name) && found[name] === undefined);
    const wanted = [
      set.length > 0 ? `${set.join(', ')} set` : '',
      demand.keep
        ? demand.keep.length > 0
          ? `only ${demand.keep.join(', ')} kept`
          : 'no others'
        : '',
    ]
      .filter(Boolean)
      .join('; ');
    const met = loose.length === 0 && missing.length === 0;
    const changes = [
      loose.length > 0 ? `${loose.join(', ')} ${loose.length === 1 ? 'is' : 'are'} taken out` : '',
      missing.length > 0 ? `${missing.join(', ')} ${missing.length === 1 ? 'is' : 'are'} set` : '',
    ].filter(Boolean);
    return {
      verdict: met ? 'met' : 'convert',
      found: has.length === 0 ? 'none' : has.join(', '),
      wanted: wanted || 'as they are',
      sentence: met ? 'Its tags are as wanted.' : `Tags: ${changes.join(', ')}.`,
    };
  },
};
