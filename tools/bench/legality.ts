import { combinations, nameOf } from '../legality/combinations';
import { ForeignDecoders } from '../legality/foreign';
import { judged } from '../legality/judge';
import type { Table } from './types';

const MOST_SECONDS = 2;
const MOST_FRAMES = 96_000;

interface Row {
  tried: number;
  decoded: number;
  faults: string[];
  /** Furthest from the bit rate that was asked for. */
  worst: number;
  worstName: string;
}

/** Everything that may be written, written and judged by others. */
export async function legalityTable(): Promise<Table> {
  const decoders = await ForeignDecoders.open();
  const rows = new Map<string, Row>();
  try {
    for (const combination of combinations()) {
      const { writer, rateHz, settings } = combination;
      const row = rows.get(writer.id) ?? {
        tried: 0,
        decoded: 0,
        faults: [],
        worst: 1,
        worstName: '–',
      };
      rows.set(writer.id, row);
      row.tried++;
      const frames = Math.min(rateHz * MOST_SECONDS, MOST_FRAMES) + 37;
      const found = await judged(combination, frames, decoders).catch((error: unknown) => ({
        faults: [String(error)],
        bytes: 0,
        errorDb: null,
      }));
      if (found.errorDb !== null) row.decoded++;
      for (const fault of found.faults) row.faults.push(`${nameOf(combination)}: ${fault}`);
      if (!('kbps' in settings)) continue;
      const ratio = (found.bytes * 8) / (frames / rateHz) / 1_000 / Number(settings.kbps);
      if (Math.abs(Math.log(ratio)) <= Math.abs(Math.log(row.worst))) continue;
      row.worst = ratio;
      row.worstName = nameOf(combination);
    }
  } finally {
    await decoders.close();
  }
  for (const { faults } of rows.values()) for (const fault of faults) console.log(fault);
  return {
    title: 'Legality',
    note:
      `Up to ${MOST_SECONDS} s of music that is much like noise in every legal combination of rate, channels and settings: ` +
      'headers checked against their standards, samples decoded by Chromium or another package that the ' +
      'product does not use. Bit rates count the container, which weighs most in short files of low rates.',
    columns: ['', 'tried', 'decoded by others', 'faults', 'furthest from the bit rate asked for'],
    rows: [...rows].map(([id, { tried, decoded, faults, worst, worstName }]) => [
      id,
      tried,
      decoded,
      faults.length,
      worstName === '–' ? '–' : `× ${worst.toFixed(2)} (${worstName})`,
    ]),
  };
}
