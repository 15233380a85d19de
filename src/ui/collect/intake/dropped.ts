import type { Brought } from './sending';

/**
 * Everything that was dropped or pasted, folders opened, with the paths that files have inside them.
 * Hidden files are among them: the server counts what it leaves out.
 */
export async function filesOf(transfer: DataTransfer): Promise<Brought[]> {
  // Items are gone after the first pause, so that entries and files are taken out at once.
  const taken = [...transfer.items]
    .filter(({ kind }) => kind === 'file')
    .map((item) => ({ entry: item.webkitGetAsEntry(), file: item.getAsFile() }));
  const lists = await Promise.all(
    taken.map(({ entry, file }) => {
      if (entry) return filesBelow(entry);
      return file ? [{ path: file.name, file }] : [];
    }),
  );
  return lists.flat();
}

/** The files of a list, with the folders that a dialog for folders gives them. */
export function filesIn(list: FileList | null): Brought[] {
  return [...(list ?? [])].map((file) => ({ path: file.webkitRelativePath || file.name, file }));
}

async function filesBelow(entry: FileSystemEntry): Promise<Brought[]> {
  const path = entry.fullPath.replace(/^\//, '');
  if (isFile(entry)) {
    const file = await new Promise<File | null>((resolve) =>
      entry.file(resolve, () => resolve(null)),
    );
    return file ? [{ path, file }] : [];
  }
  const found: Brought[] = [];
  for await (const child of childrenOf(entry as FileSystemDirectoryEntry)) {
    found.push(...(await filesBelow(child)));
  }
  return found;
}

/** A directory hands out its entries in portions until one is empty. */
async function* childrenOf(folder: FileSystemDirectoryEntry): AsyncGenerator<FileSystemEntry> {
  const reader = folder.createReader();
  for (;;) {
    const portion = await new Promise<FileSystemEntry[]>((resolve) =>
      reader.readEntries(resolve, () => resolve([])),
    );
    if (portion.length === 0) return;
    yield* portion;
  }
}

function isFile(entry: FileSystemEntry): entry is FileSystemFileEntry {
  return entry.isFile;
}
