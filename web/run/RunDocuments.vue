<script setup lang="ts">
import { computed } from 'vue';
import IconPlay from '~icons/tabler/player-play';
import IconDownload from '~icons/tabler/download';
import type { RunDocumentsView, RunView } from '#core/contract/http';
import { bytesText, counted } from '../ui/format.ts';

/** What a run makes of many photos together, and how far it is. */
const props = defineProps<{ run: RunView }>();

const rows = computed(() =>
  props.run.documents.map((document) => ({
    document,
    name: props.run.deliveries[document.delivery - 1]?.name ?? '',
    isShow: props.run.deliveries[document.delivery - 1]?.kind === 'show',
    text: textOf(document),
  })),
);

function textOf({ written, skipped, outputName, bytes, error }: RunDocumentsView): string {
  const isUnderWay = props.run.state === 'running' || props.run.state === 'paused';
  if (error !== null) return error;
  if (written > 0) {
    const more = written > 1 ? ` and ${counted(written - 1, 'more', 'more')}` : '';
    return `${outputName ?? ''}${more}, ${bytesText(bytes)}`;
  }
  if (skipped > 0) return 'not made, since its name is taken';
  if (!isUnderWay) return 'not made';
  const { total, written: ready, failed, skipped: left, cancelled } = props.run;
  const isReady = ready + failed + left + cancelled >= total;
  return isReady ? 'is being put together' : 'its photos are being made ready';
}
</script>

<template>
  <ul class="documents list-unstyled m-0" aria-label="Made of all photos">
    <li
      v-for="{ document, name, isShow, text } in rows"
      :key="document.delivery"
      class="align-items-center d-flex"
    >
      <span class="fw-medium">{{ name }}</span>
      <span
        class="text-truncate number"
        :class="{ problem: document.error !== null }"
        :role="document.error === null ? 'status' : 'alert'"
        >{{ text }}</span
      >
      <a
        v-if="isShow && document.written > 0"
        class="btn btn-primary ms-auto align-items-center d-flex gap-2"
        target="_blank"
        :href="`/api/runs/${run.id}/shows/${document.delivery}/index.html`"
      >
        <IconPlay />Play
      </a>
      <a
        v-if="document.written > 0"
        class="btn btn-outline-secondary align-items-center d-flex gap-2"
        :class="{ 'ms-auto': !isShow }"
        :href="`/api/runs/${run.id}/${document.written > 1 || isShow ? 'zip' : `documents/${document.delivery}`}`"
      >
        <IconDownload />{{ document.written > 1 ? 'Download all' : 'Download' }}
      </a>
    </li>
  </ul>
</template>

<style scoped>
.documents {
  display: grid;
  gap: 6px;
  padding-right: 12px;
}

li {
  background: var(--lc-card);
  border-radius: var(--lc-radius);
  color: var(--lc-ink);
  gap: 14px;
  min-width: 0;
  padding: 9px 14px;
}

.problem {
  color: var(--lc-lost-deep);
}
</style>
