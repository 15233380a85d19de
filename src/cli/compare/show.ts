import { columnNumber, trialColumn, usualColumnIds } from '@/core/compare/columns';
import type { ExportedTrial } from '@/core/compare/export';
import { unbeaten } from '@/core/compare/front';
import { wordsOfGrade } from '@/core/compare/grade';
import type { TriedSound } from '@/core/compare/measured';
import { isUnsteady } from '@/core/compare/spread';
import { formatTime } from '@/core/time';
import { count, kilohertz, layoutName } from '@/core/tradeNames';
import { plural } from '@/core/words';
import { harmlessName } from '../output';

/** A terminal has room for no more. */
const shown = usualColumnIds.map(trialColumn);

/** A file with a line for each candidate; what no other beats in size and grade has a star. */
export function fileLines(path: string, sound: TriedSound, rows: readonly ExportedTrial[]): string {
  const best = new Set(bestOf(rows));
  const { seconds, sourceBytes, sampleRateHz, channels } = sound;
  const head = `${harmlessName(path)}  ${formatTime(seconds)}, ${kilohertz(sampleRateHz)}, ${layoutName(channels)}, ${count(sourceBytes)} bytes`;
  const titles = ['', 'candidate', ...shown.map(({ title, unit }) => joined(title, unit)), ''];
  const lines = rows.map((row) => {
    const { text, trial, error } = row;
    if (!trial) return ['', text, error!.message];
    return [
      best.has(row) ? '*' : '',
      text,
      ...shown.map((column) => columnNumber(column, column.value(trial))),
      wordsOfGrade(trial.figures.fidelity.grade),
    ];
  });
  return [head, ...aligned([titles, ...lines])].join('\n  ');
}

const joined = (title: string, unit: string) => (unit === '' ? title : `${title}, ${unit}`);

function bestOf(rows: readonly ExportedTrial[]): ExportedTrial[] {
  const measured = rows.filter(({ trial }) => trial);
  const marks = unbeaten(
    measured.map(({ trial }) => ({
      bytes: trial!.figures.bytes,
      grade: trial!.figures.fidelity.grade,
    })),
  );
  return measured.filter((_, i) => marks[i]);
}

/** Cells below each other: the first two to the left, figures to the right. A refusal stands over all of them. */
function aligned(table: readonly string[][]): string[] {
  const whole = table.filter((line) => line.length > 3);
  const widths = (whole[0] ?? []).map((_, c) => Math.max(...whole.map((line) => line[c]!.length)));
  return table.map((line) =>
    line
      .map((cell, c) => {
        if (c === line.length - 1) return cell;
        return c < 2 ? cell.padEnd(widths[c] ?? 0) : cell.padStart(widths[c] ?? 0);
      })
      .join('  ')
      .trimEnd(),
  );
}

/** What to think of the decode costs of a call; null where nothing is to be said. */
export function unsteadyNote(files: readonly { rows: readonly ExportedTrial[] }[]): string | null {
  const works = files.flatMap(({ rows }) => rows.flatMap(({ trial }) => trial?.work ?? []));
  if (works.length === 0) return null;
  const unsteady = works.filter(({ msPerSecond }) => isUnsteady(msPerSecond)).length;
  const clock = works[0]!.isOwnClock
    ? 'Decode costs are processor time of the thread.'
    : 'Decode costs are time that passed: this system does not tell what a thread worked.';
  if (unsteady === 0) return clock;
  return (
    `${clock} The machine was busy: of ${plural(unsteady, 'trial')} the runs differ by more than a fifth. ` +
    'Measure again when nothing else goes on, or with more --runs.'
  );
}
