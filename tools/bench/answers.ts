import { knownCases } from '../answers/cases';
import { wrongIn } from '../answers/judge';
import { ForeignDecoders } from '../legality/foreign';
import type { Table } from './types';

/** Signals whose right answer is known, through every step, rate and format, decoded by others. */
export async function answersTable(): Promise<Table> {
  const decoders = await ForeignDecoders.open();
  const cases = knownCases('all');
  const groups = [...new Set(cases.map(({ group }) => group))];
  const rows: (string | number)[][] = [];
  try {
    for (const group of groups) {
      const own = cases.filter((one) => one.group === group);
      const wrong: string[] = [];
      for (const one of own) {
        const found = await wrongIn(one, (...what) => decoders.decode(...what));
        if (found !== null) wrong.push(found);
      }
      rows.push([group, own.length, wrong.length, wrong.slice(0, 3).join('; ')]);
    }
  } finally {
    await decoders.close();
  }
  return {
    title: 'Known answers',
    note:
      'Signals whose right result is known (tones of whole periods in loops, ramps, impulses, opposite channels, −80 dBFS) ' +
      'after steps, rates and formats, compared with what comes out, decoded by Chromium where it reads the format.',
    columns: ['what', 'cases', 'findings', 'such as'],
    rows,
  };
}
