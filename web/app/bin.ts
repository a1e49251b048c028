import type { BinEntry, BinKind } from '#core/contract/http';
import { api } from '../api/client.ts';
import { useLibrary } from './library.ts';
import { useNotices } from './notices.ts';

/** What was deleted lies in the bin for a while, so nobody is asked before. */
export function useBin() {
  const library = useLibrary();
  const notices = useNotices();

  /** Deletes something; a notice puts it back. @returns whether it is deleted */
  async function discard(
    { kind, id, name }: Pick<BinEntry, 'kind' | 'id' | 'name'>,
    refresh: () => Promise<unknown> = () => follow(kind),
  ): Promise<boolean> {
    const isGone = await notices.attempt(async () => {
      await api.delete(`/${kind}/${id}`);
      await refresh();
      return true;
    });
    if (!isGone) return false;
    notices.done(`${name} is deleted.`, {
      label: 'Put it back',
      act: () => void notices.attempt(() => putBack(kind, id, refresh)),
    });
    return true;
  }

  async function putBack(
    kind: BinKind,
    id: number,
    refresh: () => Promise<unknown> = () => follow(kind),
  ): Promise<BinEntry[]> {
    const left = await api.post<BinEntry[]>(`/bin/${kind}/${id}/put-back`);
    await refresh();
    return left;
  }

  /** Presets and marks tell of each other. */
  async function follow(kind: BinKind): Promise<void> {
    if (kind === 'deliveries') await library.refreshDeliveries();
    else if (kind !== 'batches') await library.refreshPresets();
  }

  return { discard, putBack };
}
