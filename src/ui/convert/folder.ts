import type { OneOffFile } from '@/wire';

/** As far as browsers have it that let pages write into a folder that somebody chooses. */
type FolderPicker = (options: { mode: 'readwrite' }) => Promise<FileSystemDirectoryHandle>;

function picker(): FolderPicker | undefined {
  return (window as { showDirectoryPicker?: FolderPicker }).showDirectoryPicker?.bind(window);
}

export function canWriteFolders(): boolean {
  return picker() !== undefined;
}

/** Writes finished files into a folder that a person chooses; null when they choose none. */
export async function writeIntoFolder(files: readonly OneOffFile[]) {
  const folder = await picker()!({ mode: 'readwrite' }).catch((error: unknown) => {
    if ((error as { name?: string }).name === 'AbortError') return null;
    throw error;
  });
  if (!folder) return null;
  for (const { id, name } of files) {
    const response = await fetch(`/api/converted/${id}/file`);
    if (!response.ok || !response.body) throw new Error(`“${name}” is not there any more.`);
    // The browser puts it in its place only when all of it is there.
    const file = await folder.getFileHandle(name, { create: true });
    await response.body.pipeTo(await file.createWritable());
  }
  return { folder: folder.name, files: files.length };
}
