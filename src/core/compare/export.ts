import Papa from 'papaparse';
import type { ErrorFacts } from '../errors';
import { wholeName, type NamedCandidate } from './candidates/candidate';
import { trialColumns } from './columns';
import type { LoadSettings } from './load';
import { trialJson, type MeasuredTrial } from './measured';

/** What came of one candidate on one sound. */
export interface ExportedTrial {
  /** How the candidate was asked for. */
  text: string;
  candidate: NamedCandidate;
  trial: MeasuredTrial | null;
  /** Why it was not tried. */
  error: ErrorFacts | null;
}

/** The stable JSON fields of one line; see the README. */
export function exportedJson(
  { text, candidate, trial, error }: ExportedTrial,
  load?: LoadSettings,
): object {
  if (trial) return trialJson(trial, load, text);
  const { format, codec, settings } = candidate;
  const why = error && { code: error.code, message: error.message, hint: error.hint };
  return { candidate: text, format, codec, settings, error: why };
}

/** More digits than any of the figures is good for. */
const DIGITS = 7;

/** A line for each trial (RFC 4180), figures in the units of the columns. */
export function trialsCsv(
  files: readonly { name: string; rows: readonly ExportedTrial[] }[],
): string {
  const fields = ['file', 'candidate', 'name', ...trialColumns.map(({ id }) => id), 'error'];
  const data = files.flatMap(({ name, rows }) =>
    rows.map(({ text, candidate, trial, error }) => [
      name,
      text,
      wholeName(candidate),
      ...trialColumns.map((column) => {
        const value = trial ? column.value(trial) : null;
        return value === null ? null : Number(value.toPrecision(DIGITS));
      }),
      error?.message ?? null,
    ]),
  );
  return `${Papa.unparse({ fields, data }, { newline: '\r\n', escapeFormulae: true })}\r\n`;
}
