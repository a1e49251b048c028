import { z } from 'zod';
import { folderPath } from './common.ts';

/** Folders of the computer, and tools on it. */

/** `anywhere`: names of folders that are not allowed yet, so that one can be chosen and allowed. */
export const folderQuery = z.strictObject({
  path: z.string().max(4_096).optional(),
  anywhere: z.stringbool().default(false),
});

/** `allow`: it is allowed with that. */
export const newFolderBody = z.strictObject({
  path: folderPath,
  allow: z.boolean().default(false),
});

/** Programs beside Light Crest, that some of what it does needs. */
export interface ToolsView {
  /** The command that brings what untouched JPEGs need, where that is missing. */
  readonly untouched: string | null;
}

export interface FolderView {
  /** Null: the places to begin with. */
  readonly path: string | null;
  readonly parent: string | null;
  readonly folders: readonly FolderEntry[];
  readonly photoCount: number;
  /** May be read and written; what is not is allowed when it is chosen. */
  readonly isAllowed: boolean;
}

export interface FolderEntry {
  readonly name: string;
  readonly path: string;
  /** Of a place to begin with: home, a disk that is plugged in, used last, allowed. */
  readonly kind?: 'home' | 'disk' | 'last' | 'allowed';
}
