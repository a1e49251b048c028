import { shallowRef } from 'vue';
import type { Finish } from '#core/contract/finish';

/** Finishes that were copied: for other layers, and for other marks as long as the page is open. */
export const finishClipboard = shallowRef<readonly Finish[] | null>(null);
