import { useQueryClient } from '@tanstack/react-query';
import type { PackLine, Sound } from '@/wire';
import { lineQuery } from '../shared/lines';
import { useProject } from '../shared/project';
import { cue, useListening } from './listening';
import { versionsOf, type HeardWith } from './versions';

type Fetched = PackLine | null;

/**
 * Puts a sound into the strip: at once in the forms that are known on the screen, and with its finished files
 * as soon as these are known too. Answers the forms that are there at once.
 */
export function useCue() {
  const { project, cells, briefs } = useProject();
  const client = useQueryClient();
  return (sound: Sound, { key, ...shaping }: Pick<HeardWith, 'recipe'> & { key?: string } = {}) => {
    const queries = cells
      .filter(({ soundId }) => soundId === sound.id)
      .map((cell) => lineQuery(project.id, cell));
    const known = queries.map(({ queryKey }) => client.getQueryData<Fetched>(queryKey));
    const forms = (lines: typeof known) =>
      versionsOf(sound, { ...shaping, briefs, lines: lines.flatMap((line) => line ?? []) });
    const versions = forms(known);
    cue(sound.name, versions, key);
    if (known.includes(undefined)) {
      void Promise.all(queries.map((query) => client.fetchQuery(query)))
        .then((lines) => {
          const [first] = useListening.getState().versions;
          if (first?.key === versions[0]?.key) cue(sound.name, forms(lines));
        })
        // The strip goes without them.
        .catch(() => undefined);
    }
    return versions;
  };
}
