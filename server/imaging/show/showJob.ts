import type { DeliveryRule } from '#core/contract/delivery';
import type { PresetRule } from '#core/contract/preset';

/** Photos that were made ready for a show. Plain data. */
export interface ShowJob {
  readonly rule: DeliveryRule;
  /** Of the window. */
  readonly name: string;
  /** In their order; those that could not be made are left out. */
  readonly photos: readonly ShowPhotoJob[];
  /** The mark of the title card and of the corner of the screen; null: the show has none. */
  readonly mark: { readonly rule: PresetRule; readonly mark: number } | null;
  /** The folder that is written, which is not there yet. */
  readonly temporaryPath: string;
}

export interface ShowPhotoJob {
  readonly path: string;
  readonly name: string;
  readonly caption: string;
}
