import { errorFacts, type ErrorFacts } from '@/core/errors';

const reasons: Record<string, string> = {
  EACCES: 'it is not permitted',
  EPERM: 'it is not permitted',
  EROFS: 'the disk is read-only',
  ENOSPC: 'the disk is full',
  EDQUOT: 'no more room is allowed on this disk',
  ENAMETOOLONG: 'its name is too long',
  ENOTDIR: 'a part of its path is a file',
  EISDIR: 'it is a folder',
  EEXIST: 'something of that name is there',
  ENOTEMPTY: 'a folder of that name is not empty',
  ELOOP: 'its links go round in circles',
  ENOENT: 'nothing can be made there',
  EBUSY: 'it is in use',
  EIO: 'the disk does not answer as it should',
  EMFILE: 'too many files are open',
  ENFILE: 'too many files are open',
};

/** Why a file system refuses something, for use inside of brackets. */
export function fileTrouble({ code = '' }: NodeJS.ErrnoException): string {
  return reasons[code] ?? (code === '' ? 'the reason is not known' : code);
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
  const { code, syscall } = (error ?? {}) as NodeJS.ErrnoException;
  const known = sentences[code ?? ''];
  if (known) return { code: 'not-found', message: known[0], hint: known[1] };
  const facts = errorFacts(error);
  if (syscall === undefined || facts.code !== 'internal') return facts;
  return {
    code: 'disk',
    message: `The disk could not be read or written (${fileTrouble({ code } as NodeJS.ErrnoException)}).`,
    hint: 'Check the disk, then try again.',
  };
}
