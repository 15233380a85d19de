import papaparse from 'papaparse';
import { printable, type TextKind } from '../kind';
import { Places } from '../places';
import type { Standing, StandIns } from '../standIns';

export const csvText: TextKind = {
  id: 'csv',
  escaped(value) {
    const plain = printable(value);
    // Programs that calculate would do so with these, whatever cannot be seen in front of them.
    const isFormula = /^[\s\p{Cf}]*[=+\-@]/u.test(plain) || /^[\t\r]/.test(plain);
    const safe = isFormula && !/^[+-]?[\d.]+$/.test(plain) ? `'${plain}` : plain;
    return /[",;\n\r\t]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
  },
  standings: standingsIn,
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

/** A value that needs quotation marks brings them along: it has to be a whole field. */
function* standingsIn(text: string, words: StandIns): Generator<Standing> {
  const isEdge = (sign: string | undefined) => sign === undefined || /[,;\n\r]/.test(sign);
  let quotes = 0;
  let counted = 0;
  for (const { word, at, end } of words.in(text)) {
    for (; counted < at; counted++) if (text[counted] === '"') quotes++;
    const isWhole = quotes % 2 === 0 && isEdge(text[at - 1]) && isEdge(text[end]);
    yield { word, problem: isWhole ? null : PART_OF_FIELD };
  }
}

const PART_OF_FIELD = {
  message:
    'it has to be a whole field: what it holds may need quotation marks, which it brings along',
  cure: 'Put a comma on both sides of it, and no quotation marks.',
};
