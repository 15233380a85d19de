import papaparse from 'papaparse';
import { printable, type TextKind } from '../kind';
import { Places } from '../places';

export const csvText: TextKind = {
  id: 'csv',
  escaped(value) {
    const plain = printable(value);
    // Programs that calculate would do so with these.
    const safe = /^[=+\-@]/.test(plain) && !/^[+-]?[\d.]+$/.test(plain) ? `'${plain}` : plain;
    return /[",;\n\r]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
  },
  problems(text) {
    const places = new Places(text);
    const { data, errors } = papaparse.parse<string[]>(text.replace(/\r?\n$/, ''), {
      delimiter: text.split('\n', 1)[0]!.includes(';') ? ';' : ',',
    });
    const quotes = errors.map(({ message, index = 0 }) => ({ ...places.at(index), message }));
    const columns = data[0]?.length ?? 0;
    let line = 1;
    const rows = data.flatMap((row) => {
      const at = line;
      line += 1 + row.reduce((sum, field) => sum + field.split('\n').length - 1, 0);
      if (row.length === columns) return [];
      const message = `this line has ${row.length} fields, the first one ${columns}`;
      return [{ line: at, column: 1, message }];
    });
    return [...quotes, ...rows].sort((a, b) => a.line - b.line || a.column - b.column);
  },
};
