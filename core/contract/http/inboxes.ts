import { z } from 'zod';
import { MARKS_MAX, nameSchema } from '../preset.ts';
import { MOST_DELIVERIES } from './batches.ts';
import { folderPath, id } from './common.ts';

/** Watched folders, as page and server speak of them. */

export const inboxBody = z.strictObject({
  name: nameSchema,
  folder: folderPath,
  /** Laid over each other, the lowest first. */
  presetIds: z.array(id).min(1).max(MARKS_MAX),
  deliveryIds: z.array(id).min(1).max(MOST_DELIVERIES),
  isOn: z.boolean().default(true),
  /** Where photos are moved that cannot be read; null: they stay. */
  aside: folderPath.nullable().default(null),
});
export type InboxWish = z.infer<typeof inboxBody>;

export interface InboxView {
  readonly id: number;
  readonly name: string;
  readonly folder: string;
  readonly presetIds: readonly number[];
  readonly deliveryIds: readonly number[];
  readonly isOn: boolean;
  /** Where photos are moved that cannot be read; null: they stay. */
  readonly aside: string | null;
  /** What is in its way: a folder that is away, a loop; or null. */
  readonly problem: string | null;
  /** Photos that are still being written, or wait. */
  readonly waiting: number;
  readonly taken: number;
  /** Photos that could not be read at all. */
  readonly unread: number;
  /** Outputs. */
  readonly written: number;
  readonly failed: number;
  readonly lastRunId: number | null;
}

/** A photo that could not be read at all. */
export interface UnreadView {
  readonly name: string;
  readonly reason: string;
}
