import { useDocumentVisibility, useLocalStorage } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import type { RunView } from '#core/contract/http';
import { onServerEvent } from '../api/events.ts';
import { useNotices } from '../app/notices.ts';
import { counted } from '../ui/format.ts';
import { useRuns } from './runs.ts';

/** Whether this browser is to tell of the end of a run while another window is in front. */
export function useTellsEnd() {
  const isWished = useLocalStorage('light-crest tells the end of runs', false);
  const isSupported = 'Notification' in window;
  const isOn = computed(
    () => isSupported && isWished.value && Notification.permission === 'granted',
  );

  /** Asks for permission where that was not given yet; a refusal leaves it off. */
  async function toggle(): Promise<void> {
    if (isOn.value) {
      isWished.value = false;
      return;
    }
    const answer = await Notification.requestPermission();
    // Read again: the browser's answer is no part of what is watched.
    isWished.value = false;
    isWished.value = answer === 'granted';
  }

  return { isSupported, isOn, toggle };
}

/** What happens to runs, told in a notice, in the window's title and, if allowed, by the system. */
export function useRunNews() {
  const runs = useRuns();
  const notices = useNotices();
  const { isOn } = useTellsEnd();
  const visibility = useDocumentVisibility();
  const told = new Set<number>();
  /** What ended while nobody looked; it stays in the title until somebody does. */
  const ended = ref<string | null>(null);
  watch(visibility, (now) => {
    if (now === 'visible') ended.value = null;
  });

  onServerEvent('run', (run) => {
    if (run.state === 'running') told.delete(run.id);
    if (run.state !== 'done' || told.has(run.id)) return;
    told.add(run.id);
    const text = endText(run);
    notices.done(text, { to: `/runs/${run.id}`, label: 'See them' });
    if (visibility.value === 'visible') return;
    ended.value = run.failed > 0 ? `${run.failed} failed` : 'done';
    if (isOn.value) tellSystem(text);
  });

  const running = computed(() => runs.underWay.find((run) => run.state === 'running') ?? null);
  return computed(() => {
    const run = running.value;
    return run ? `${run.written + run.skipped + run.failed} of ${run.total}` : ended.value;
  });
}

export function endText({ batchName, written, skipped, failed }: RunView): string {
  const parts = [
    `${counted(written, 'file')} written`,
    skipped > 0 ? `${skipped} skipped` : '',
    failed > 0 ? `${failed} failed` : '',
  ];
  return `${batchName}: ${parts.filter(Boolean).join(', ')}.`;
}

function tellSystem(text: string): void {
  try {
    const notification = new Notification('Light Crest', { body: text });
    notification.onclick = () => window.focus();
  } catch {
    // Some browsers only let service workers notify; the title tells as well.
  }
}
