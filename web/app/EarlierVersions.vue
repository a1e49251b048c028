<script setup lang="ts" generic="T">
import { BModal } from 'bootstrap-vue-next/components/BModal';
import { computed } from 'vue';
import type { EarlierVersion } from '#core/contract/http';
import { api } from '../api/client.ts';
import { useAttempt } from '../api/useAttempt.ts';
import { useResource } from '../api/useResource.ts';
import { agoText } from '../ui/format.ts';

/** What something was before, as pictures; one click takes it back. A run under way is not touched. */
const props = defineProps<{
  name: string;
  /** Where its versions are asked for, such as `/marks/3`. */
  path: string;
}>();
const emit = defineEmits<{ taken: [] }>();
defineSlots<{ default(of: { version: EarlierVersion<T> }): unknown }>();
const isOpen = defineModel<boolean>({ required: true });

const {
  value: versions,
  isLoading,
  problem: askProblem,
} = useResource(
  (signal) => api.get<EarlierVersion<T>[]>(`${props.path}/versions`, { signal }),
  () => (isOpen.value ? props.path : null),
);
const { problem: takeProblem, isBusy, attempt } = useAttempt();
const problem = computed(() => askProblem.value ?? takeProblem.value);

function take(version: number): Promise<void> {
  return attempt(async () => {
    await api.post(`${props.path}/versions/${version}`);
    isOpen.value = false;
    emit('taken');
  });
}
</script>

<template>
  <BModal
    v-model="isOpen"
    title-tag="h2"
    :title="`Earlier versions of ${name}`"
    size="lg"
    centered
    scrollable
    no-footer
  >
    <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
    <p v-if="isLoading" class="quiet">Opening</p>
    <p v-else-if="versions?.length === 0" class="quiet">
      There is none yet. What it is now is kept as soon as it is changed; the last twenty can be
      taken back.
    </p>
    <ul v-else-if="versions" class="versions">
      <li v-for="version in versions" :key="version.version" class="card-plain">
        <slot :version="version" />
        <span class="d-flex align-items-baseline gap-2">
          <span class="quiet number me-auto">{{
            version.madeAt ? agoText(version.madeAt) : 'before'
          }}</span>
          <button
            class="btn btn-link"
            type="button"
            :disabled="isBusy"
            :aria-label="`Take back version ${version.version}`"
            @click="take(version.version)"
          >
            Take back
          </button>
        </span>
      </li>
    </ul>
  </BModal>
</template>

<style scoped>
.versions {
  display: grid;
  gap: 14px;
  grid-template-columns: repeat(auto-fill, minmax(216px, 1fr));
  list-style: none;
  margin: 0;
  padding: 0;
}

.versions li {
  align-content: space-between;
  display: grid;
  gap: 6px;
  overflow: hidden;
  padding-bottom: 6px;
}

.versions li > span:last-child {
  padding: 0 12px;
}

.problem {
  color: var(--lc-lost-deep);
}
</style>
