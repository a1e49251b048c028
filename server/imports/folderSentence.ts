/** What the file system says when a folder cannot be read, as a sentence. */
export function folderSentence(folder: string, error: unknown): string {
  switch ((error as NodeJS.ErrnoException | null)?.code) {
    case 'ENOENT':
      return `${folder} is not there: it was moved, renamed or its disk was removed.`;
    case 'ENOTDIR':
      return `${folder} is a file, not a folder.`;
    case 'EACCES':
    case 'EPERM':
      return `${folder} may not be read by this user.`;
    case 'ETIMEDOUT':
    case 'ESTALE':
      return `${folder} does not answer: its disk or the computer it is on may be away.`;
    default:
      return `${folder} could not be read (${(error as Error).message}).`;
  }
}
