import { cellText, tableColumns, type TableColumn, type TableRow } from '@/core/collect/columns';

/** What a column must hold: a part of its text, a size between two others, or one of some values. */
export interface ColumnFilter {
  text?: string;
  /** In the column's own unit; open where it is not named. */
  min?: number;
  max?: number;
  values?: string[];
}

/** A filter without what says nothing; null when nothing is left. */
export function tidyFilter(filter: unknown): ColumnFilter | null {
  if (typeof filter !== 'object' || filter === null) return null;
  const { text, min, max, values } = filter as ColumnFilter;
  const tidy: ColumnFilter = {
    ...(typeof text === 'string' && text.trim() !== '' && { text }),
    ...(typeof min === 'number' && Number.isFinite(min) && { min }),
    ...(typeof max === 'number' && Number.isFinite(max) && { max }),
    ...(Array.isArray(values) && values.length > 0 && { values: values.map(String) }),
  };
  return Object.keys(tidy).length > 0 ? tidy : null;
}

/** Whether a line passes a column's filter. What has no value passes none. */
export function passes(column: TableColumn, row: TableRow, filter: ColumnFilter): boolean {
  const { text, min, max, values } = filter;
  if (text !== undefined && !contains(cellText(column, row), text)) return false;
  if (values && !values.includes(cellText(column, row))) return false;
  if (min === undefined && max === undefined) return true;
  const value = column.value(row);
  if (typeof value !== 'number') return false;
  return value >= (min ?? -Infinity) && value <= (max ?? Infinity);
}

/** The filter in words: "Length at least 5 s". */
export function filterText(column: TableColumn, { text, min, max, values }: ColumnFilter): string {
  const { size = 1, name = '' } = column.unit ?? {};
  const number = (value: number) => `${Number((value / size).toPrecision(6))} ${name}`.trim();
  const parts = [
    text !== undefined && `contains “${text}”`,
    min !== undefined && `at least ${number(min)}`,
    max !== undefined && `at most ${number(max)}`,
    values && `is ${values.map((value) => value || 'empty').join(' or ')}`,
  ].filter(Boolean);
  return `${column.title} ${parts.join(' and ')}`;
}

/** Columns whose text is searched. Numbers are looked for with filters. */
const searched = tableColumns.filter(({ kind, id }) => kind !== 'number' && id !== 'addedAt');
const haystacks = new WeakMap<TableRow, string>();

/** Whether a line holds every word of a search somewhere. */
export function isFound(row: TableRow, search: string): boolean {
  let haystack = haystacks.get(row);
  if (haystack === undefined) {
    haystack = searched
      .map((column) => cellText(column, row))
      .join('\n')
      .toLowerCase();
    haystacks.set(row, haystack);
  }
  return search
    .toLowerCase()
    .split(/\s+/)
    .every((word) => haystack.includes(word));
}

function contains(text: string, part: string): boolean {
  return text.toLowerCase().includes(part.trim().toLowerCase());
}
