import { onMounted, ref } from 'vue';
import type { ToolsView } from '#core/contract/http';
import { api } from '../api/client.ts';

/** What the server lacks, asked for each time, since it may have been brought meanwhile. */
export function useTools() {
  /** The command that brings the tool for untouched JPEGs, where it is missing. */
  const untouchedCommand = ref<string | null>(null);
  onMounted(async () => {
    // Where the server is away, that is said elsewhere.
    const tools = await api.get<ToolsView>('/tools').catch(() => null);
    untouchedCommand.value = tools?.untouched ?? null;
  });
  return { untouchedCommand };
}
