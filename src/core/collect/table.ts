import Papa from 'papaparse';
import { tableColumns, type TableColumn, type TableRow } from './columns';

/** Lines of the table as data: a field for every column, null where there is nothing. */
export function tableRecords(rows: readonly TableRow[]): Record<string, number | string | null>[] {
  return rows.map((row) =>
    Object.fromEntries(tableColumns.map((column) => [column.id, written(column, row)])),
  );
}

/**
 * The table as CSV (RFC 4180): a heading line, then a line for each sound, numbers in the units of
 * their headings. Text that a spreadsheet would take for a formula gets an apostrophe in front.
 */
export function tableCsv(
  rows: readonly TableRow[],
  before: { id: string; of(row: number): string }[] = [],
): string {
  const fields = [...before.map(({ id }) => id), ...tableColumns.map(({ id }) => id)];
  const data = rows.map((row, at) => [
    ...before.map((column) => column.of(at)),
    ...tableColumns.map((column) => written(column, row)),
  ]);
  return `${Papa.unparse({ fields, data }, { newline: '\r\n', escapeFormulae: true })}\r\n`;
}

/** Six decimals are more than any of the measures is good for. */
function written(column: TableColumn, row: TableRow): number | string | null {
  const value = column.value(row);
  return typeof value === 'number' ? Number(value.toFixed(6)) : value;
}
