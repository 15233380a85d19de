import { errorFacts, type ErrorFacts } from '@/core/errors';
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

const sentences: Record<string, [message: string, hint: string]> = {
  ENOENT: ['There is no such file.', 'Check the name and the folder.'],
  EISDIR: ['It is a folder, not a file.', 'Name the files in it.'],
  EACCES: ['It may not be read or written.', 'Check its permissions.'],
  ENAMETOOLONG: ['Its name is too long for this disk.', 'Give it a shorter name.'],
  ENOTDIR: ['A part of its path is a file.', 'Check the name and the folder.'],
  ELOOP: ['Its links go round in circles.', 'Name the file itself.'],
  EROFS: ['The disk is read-only.', 'Choose another folder with --out.'],
  EPERM: ['It may not be read or written.', 'Check its permissions.'],
};

/** What was thrown, as plain data; faults of the file system get sentences too. */
export function fileError(error: unknown): ErrorFacts {
  const known = sentences[(error as NodeJS.ErrnoException | null)?.code ?? ''];
  return known ? { code: 'not-found', message: known[0], hint: known[1] } : errorFacts(error);
}
