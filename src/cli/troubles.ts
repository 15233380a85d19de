import { plural } from '@/core/words';

/** Names that are given where several files have the same trouble. */
const MOST_NAMED = 3;

interface Trouble {
  text: string;
  /** Whether all say the very same, figures included. */
  isSame: boolean;
  files: number;
  names: string[];
}

/** What went wrong or is worth a word, once for all files that have it in common. */
export class Troubles {
  private readonly known = new Map<string, Trouble>();

  /** Takes a sentence about a file. Sentences that differ in their figures are alike. */
  add(name: string, text: string): void {
    // With what is counted: "1 sample", "3 samples".
    const key = text.replace(/\d+(?:[.,]\d+)*(?: \w+)?/g, '#');
    const known = this.known.get(key);
    if (!known) {
      this.known.set(key, { text, isSame: true, files: 1, names: [name] });
      return;
    }
    known.files++;
    known.isSame &&= known.text === text;
    if (known.names.length < MOST_NAMED) known.names.push(name);
  }

  /** A line for each kind of trouble, in the order in which they came up; they are forgotten then. */
  *lines(): Generator<string> {
    for (const { text, isSame, files, names } of this.known.values()) {
      if (files === 1) {
        yield `${names[0]}: ${text}`;
        continue;
      }
      const rest = files - names.length;
      const named = `${names.join(', ')}${rest > 0 ? ` and ${plural(rest, 'other')}` : ''}`;
      yield `${plural(files, 'file')}: ${text}${isSame ? '' : ' (figures of the first)'} – ${named}`;
    }
    this.known.clear();
  }
}
