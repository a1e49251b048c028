import { dirname } from 'node:path';

/** What the file system says when something cannot be written, as a sentence. */
export function storageSentence(path: string, error: unknown): string {
  const folder = dirname(path);
  switch ((error as NodeJS.ErrnoException | null)?.code) {
    case 'ENOSPC':
    case 'EDQUOT':
      return `The disk that holds ${folder} is full. Make room, then retry; nothing half-written was left.`;
    case 'EACCES':
    case 'EPERM':
      return `${folder} may not be written by this user. Choose another folder or change its permissions.`;
    case 'EROFS':
      return `${folder} is on a disk that can only be read. Choose another folder.`;
    case 'ENOENT':
      return `${folder} is not there any more: it was moved, renamed or its disk was removed.`;
    case 'ENOTDIR':
      return `${folder} is a file, not a folder.`;
    case 'ETIMEDOUT':
    case 'ESTALE':
      return `${folder} does not answer: its disk or the computer it is on may be away. Try again when it is back.`;
    case 'ENAMETOOLONG':
      return `The output's name is too long for the disk that holds ${folder}. Shorten the name pattern.`;
    case 'EFBIG':
      return `The output is larger than the disk that holds ${folder} takes in one file.`;
    default: {
      const message = error instanceof Error ? error.message : String(error);
      return `The output could not be written to ${folder} (${message}).`;
    }
  }
}
