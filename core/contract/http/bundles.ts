import { z } from 'zod';
import { BUNDLE_MOST } from '../bundle.ts';
import { id } from './common.ts';

/** Bundles, as page and server speak of them. */

/** Ids in an address, with commas between them. */
const idList = z
  .string()
  .regex(/^(\d+(,\d+)*)?$/)
  .default('')
  .transform((text) => (text === '' ? [] : text.split(',').map(Number)))
  .pipe(z.array(id).max(BUNDLE_MOST));

/** What goes into a bundle; presets bring their marks along, deliveries their presets. */
export const bundleQuery = z.strictObject({ marks: idList, presets: idList, deliveries: idList });

export const BUNDLE_KINDS = ['marks', 'presets', 'deliveries'] as const;
export type BundleKind = (typeof BUNDLE_KINDS)[number];

/** What becomes of a thing in a bundle: `add` gives it a free name where its own is taken. */
export const BUNDLE_DECISIONS = ['add', 'replace', 'leave'] as const;
export type BundleDecision = (typeof BUNDLE_DECISIONS)[number];

export const takeBundleBody = z.strictObject({
  decisions: z
    .array(
      z.strictObject({
        kind: z.enum(BUNDLE_KINDS),
        key: z.string().min(1).max(40),
        decision: z.enum(BUNDLE_DECISIONS),
      }),
    )
    .max(BUNDLE_MOST * BUNDLE_KINDS.length),
});
export type TakeBundleWish = z.infer<typeof takeBundleBody>;

export const bundleParams = z.strictObject({ key: z.uuid() });

/** A thing in a bundle beside the library. */
export interface BundleEntryView {
  readonly kind: BundleKind;
  readonly key: string;
  readonly name: string;
  /** `same`: it is there already as it is; `taken`: another has its name. */
  readonly state: 'new' | 'same' | 'taken';
}

/** A bundle that was looked at and not taken in yet. */
export interface BundleView {
  /** It is taken in under this. */
  readonly key: string;
  readonly madeAt: string;
  readonly entries: readonly BundleEntryView[];
}

/** What was taken in of a bundle. */
export interface TakenBundleView {
  readonly added: number;
  readonly replaced: number;
  readonly left: number;
  /** Things that could not be taken, with the reason. */
  readonly problems: readonly string[];
}
