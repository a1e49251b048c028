import { z } from 'zod';

/** What the other parts of the contract between page and server have in common. */

export const id = z.number().int().positive();

export const folderPath = z.string().trim().min(1).max(4_096);

export const idParams = z.strictObject({ id: z.coerce.number().int().positive() });

export const pageNumber = z.coerce.number().int().positive();

export const toneText = z.string().regex(/^(light|dark|original|[0-9a-fA-F]{6})$/);

/** The version a change was made to; left out, it replaces whatever is there. */
export const baseVersion = z.number().int().positive().optional();

export const versionParams = idParams.extend({ version: z.coerce.number().int().positive() });

export interface ErrorAnswer {
  readonly code: string;
  readonly message: string;
  /** For a body that does not validate: a sentence a key. */
  readonly details: Readonly<Record<string, string>>;
}

/** Something as it was before, newest first in a list. */
export interface EarlierVersion<T> {
  readonly version: number;
  /** Null: before this was noted. */
  readonly madeAt: string | null;
  readonly value: T;
}
