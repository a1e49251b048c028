/** What was dropped, folders opened, and a name for the lot. */
export interface Dropped {
  readonly files: File[];
  /** Name of the only folder dropped, if that is what it was. */
  readonly folderName: string | null;
}

/** Hidden files and the notes that systems leave in folders are nobody's photos. */
const HIDDEN = /^\.|^(thumbs\.db|desktop\.ini)$/i;

export async function droppedFiles(transfer: DataTransfer): Promise<Dropped> {
  // The entries must be taken at once: the transfer is emptied when the event is over.
  const items = [...transfer.items].filter((item) => item.kind === 'file');
  const entries = items.map((item) => item.webkitGetAsEntry() ?? item.getAsFile());
  const files = (await Promise.all(entries.map(filesOf))).flat();
  const only = entries.length === 1 ? entries[0] : null;
  const isFolder = only !== null && !(only instanceof File) && only.isDirectory;
  return { files: visible(files), folderName: isFolder ? only.name : null };
}

export function chosenFiles(list: FileList | null): Dropped {
  const files = [...(list ?? [])];
  const folder = files[0]?.webkitRelativePath.split('/')[0];
  return { files: visible(files), folderName: folder || null };
}

function visible(files: readonly File[]): File[] {
  return files.filter((file) => !HIDDEN.test(file.name));
}

/** A browser without entries gives the file itself. */
async function filesOf(entry: FileSystemEntry | File | null): Promise<File[]> {
  if (entry === null) return [];
  if (entry instanceof File) return [entry];
  if (entry.isFile) {
    return [
      await new Promise<File>((done, fail) => (entry as FileSystemFileEntry).file(done, fail)),
    ];
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  const inside: FileSystemEntry[] = [];
  for (;;) {
    // A reader gives at most a hundred entries at a time, and none at the end.
    const some = await new Promise<FileSystemEntry[]>((done, fail) =>
      reader.readEntries(done, fail),
    );
    if (some.length === 0) break;
    inside.push(...some);
  }
  return (await Promise.all(inside.map(filesOf))).flat();
}
