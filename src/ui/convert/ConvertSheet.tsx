'use client';

import { Dialog } from '../shared/Dialog';
import { plural } from '../shared/format';
import { useProject } from '../shared/project';
import { Choosing } from './Choosing';
import { closeConvert, useConvert } from './convert';
import { Results } from './Results';

/** Converting without a destination: what to make of which sounds, and what has come of it. */
export function ConvertSheet() {
  const { isOpen, ids, since, setId } = useConvert();
  const { sounds } = useProject();
  const meant = new Set(ids);
  const chosen = sounds.filter(
    ({ id, state }) => meant.has(id) || (since !== null && id > since && state !== 'refused'),
  );
  const what = chosen.length === 1 ? `“${chosen[0]!.name}”` : plural(chosen.length, 'sound');
  const title = setId !== null ? 'Converted' : chosen.length === 0 ? 'Convert' : `Convert ${what}`;
  return (
    <Dialog title={title} width="max-w-3xl" isOpen={isOpen} onClose={closeConvert}>
      {setId === null ? <Choosing sounds={chosen} /> : <Results id={setId} />}
    </Dialog>
  );
}
