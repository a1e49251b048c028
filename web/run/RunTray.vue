<script setup lang="ts">
import { computed } from 'vue';
import type { RunItemView, RunView } from '#core/contract/http';
import IconVerified from '~icons/tabler/circle-check';
import CopyButton from '../ui/CopyButton.vue';
import { counted } from '../ui/format.ts';
import { runFolders } from './deliveriesOfRun.ts';
import { madeByText } from './madeBy.ts';
import { awayText, runResult, toldOf } from './runResult.ts';
import RunDownloads from './RunDownloads.vue';
import RunFigures from './RunFigures.vue';

/** What came of a run: how many files and where, their bytes, what failed, and all as one download. */
const props = defineProps<{
  run: RunView;
  items: readonly RunItemView[];
  isUnderWay: boolean;
  /** Files that are not where they were written. */
  away: number;
  /** Photos of the batch that the run did not have. */
  addedSince: number;
}>();
defineEmits<{ retry: []; remove: []; again: [] }>();

const result = computed(() => runResult(props.run, props.items));
const isAllThere = computed(() => props.away === 0);
const hasFailures = computed(() => props.run.failed > 0 || result.value.isDocumentFailed);
const folders = computed(() => runFolders(props.run));
const madeBy = computed(() => madeByText(props.items));
</script>

<template>
  <div class="tray">
    <section class="part d-flex flex-column" aria-label="Result">
      <h2 class="minor">Result</h2>
      <p class="number result">
        <b>{{ result.files }}</b> written<template v-if="result.isOfAll"
          >, of {{ counted(run.written, 'photo') }}</template
        ><template v-if="run.skipped"
          >, <b>{{ run.skipped }}</b> skipped</template
        ><template v-if="run.failed"
          >, <b class="bad">{{ run.failed }}</b> failed</template
        ><template v-if="run.cancelled">, {{ run.cancelled }} not begun</template
        ><span v-if="result.verified && isAllThere" class="verified"
          ><IconVerified aria-hidden="true" /> {{ result.verified }}</span
        >
      </p>
      <ul class="paths quiet list-unstyled">
        <li v-for="folder in folders" :key="folder" :title="folder">
          {{ folder }}
          <CopyButton v-if="run.written > 0" :text="folder" label="Copy path" />
        </li>
      </ul>
      <div class="links d-flex gap-2">
        <button v-if="!isUnderWay" class="btn btn-link" type="button" @click="$emit('remove')">
          Take off the list
        </button>
        <RouterLink v-if="run.batchId" class="btn btn-link" :to="`/batches/${run.batchId}`"
          >To the batch</RouterLink
        >
      </div>
    </section>
    <section class="part figures d-flex flex-column" aria-label="Before and after">
      <RunFigures
        v-if="result.written.length > 0 || !result.isOfAll"
        :run="run"
        :items="result.written"
      />
      <h2 v-else class="minor">Before and after</h2>
    </section>
    <section class="part failures d-flex flex-column" aria-label="Failed">
      <h2 class="minor">
        {{ isAllThere || hasFailures ? result.failures : 'Not there any more' }}
      </h2>
      <p v-if="!isAllThere" class="bad m-0" role="status">
        {{ awayText(away, result.files) }}
      </p>
      <ul v-if="result.failed.length + result.doubtful.length + result.noted.length > 0">
        <li v-for="text in toldOf(result.failed, ({ error }) => error)" :key="text">{{ text }}</li>
        <li v-for="item in result.doubtful" :key="item.id">
          {{ item.outputName }} is not verified: {{ item.readBack?.problem }}
        </li>
        <li v-for="text in toldOf(result.noted, ({ note }) => note)" :key="text" class="noted">
          {{ text }}
        </li>
      </ul>
      <p v-else-if="isAllThere" class="quiet">
        Every file is whole: it got its name only when all of it was on the disk.
      </p>
      <p v-if="madeBy" class="quiet number m-0">{{ madeBy }}</p>
      <button
        v-if="(hasFailures || run.cancelled > 0) && !isUnderWay"
        class="btn btn-outline-secondary"
        type="button"
        @click="$emit('retry')"
      >
        {{ hasFailures ? 'Retry failed' : 'Go on' }}
      </button>
    </section>
    <section class="part go d-flex flex-column" aria-label="All files">
      <h2 class="minor">All files</h2>
      <RunDownloads :run="run" :result="result" :away="away" :is-under-way="isUnderWay" />
      <button
        v-if="addedSince > 0 && !isUnderWay"
        class="btn btn-link"
        type="button"
        @click="$emit('again')"
      >
        Again with {{ counted(addedSince, 'photo') }} added since
      </button>
    </section>
  </div>
</template>

<style scoped>
.tray {
  background: var(--lc-paper);
  border-top: 1px solid var(--lc-hairline);
  display: grid;
  grid-template-columns: minmax(0, 1.45fr) minmax(0, 1.5fr) minmax(0, 1.1fr) minmax(0, 0.95fr);
  height: 176px;
}

.part {
  border-right: 1px solid var(--lc-hairline);
  gap: 7px;
  min-height: 0;
  min-width: 0;
  padding: 12px 18px;
}

.part:last-child {
  border-right: 0;
}

.result {
  font-size: 1rem;
}

.result b {
  font-family: var(--lc-serif);
  font-size: 1.5rem;
  font-weight: 500;
}

.verified {
  color: var(--lc-clear);
  margin-left: 12px;
  white-space: nowrap;
}

.bad {
  color: var(--lc-lost-deep);
}

.paths :deep(.btn) {
  padding-inline: 0;
}

.paths {
  flex: 0 1 auto;
  font-size: 0.8125rem;
  margin: 0;
  min-height: 2.9em;
  overflow: auto;
  overflow-wrap: anywhere;
}

.links {
  margin: auto 0 0 -0.35rem;
  white-space: nowrap;
}

.failures ul {
  color: var(--lc-lost-deep);
  flex: 1;
  font-size: 0.8125rem;
  list-style: none;
  margin: 0;
  min-height: 0;
  overflow: auto;
  padding: 0;
}

.failures .noted {
  color: var(--lc-ink-quiet);
}

.failures .btn {
  align-self: start;
}

@media (max-width: 900px) {
  .tray {
    grid-auto-rows: max-content;
    grid-template-columns: repeat(2, minmax(0, 1fr));
    height: auto;
    max-height: 46vh;
    overflow: auto;
  }

  .part {
    border-bottom: 1px solid var(--lc-hairline);
    min-height: 120px;
  }

  .paths {
    flex: none;
    overflow: visible;
  }
}

@media (max-width: 640px) {
  .tray {
    grid-template-columns: minmax(0, 1fr);
  }
}

@media (max-height: 700px) and (min-width: 901px) {
  .tray {
    height: 132px;
  }

  .part {
    gap: 3px;
    overflow: auto;
    padding-block: 8px;
  }
}

@media (max-height: 460px) {
  .tray {
    height: auto;
    max-height: none;
  }
}
</style>
