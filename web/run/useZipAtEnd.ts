import { useSessionStorage } from '@vueuse/core';
import { defineStore } from 'pinia';
import type { RunView } from '#core/contract/http';

/** Downloads what runs made for that, once each has ended, in the window that began it. */
export const useZipAtEnd = defineStore('zip at the end', () => {
  // A window that is loaded anew still knows them.
  const awaited = useSessionStorage<number[]>('light-crest runs to download', []);

  /** A run that was begun, or goes on, here. */
  function expect({ id, deliveries }: RunView): void {
    const isWished = deliveries.some(({ zip }) => zip === true);
    if (isWished && !awaited.value.includes(id)) awaited.value = [...awaited.value, id];
  }

  /** As it is now, however one came to know that. */
  function look({ id, state, written }: RunView): void {
    if (!awaited.value.includes(id) || state === 'running' || state === 'paused') return;
    awaited.value = awaited.value.filter((one) => one !== id);
    if (state === 'done' && written > 0) download(`/api/runs/${id}/zip?of=zip`);
  }

  return { expect, look };
});

function download(address: string): void {
  const link = document.createElement('a');
  link.href = address;
  link.download = '';
  document.body.append(link);
  link.click();
  link.remove();
}
