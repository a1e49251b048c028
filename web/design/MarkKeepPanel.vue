<script setup lang="ts">
import { computed } from 'vue';
import { BButton } from 'bootstrap-vue-next/components/BButton';
import { useDesk } from './useDesk.ts';
import { useFirstSteps } from '../start/firstSteps.ts';
import { useNotices } from '../app/notices.ts';
import BenchPanel from '../ui/BenchPanel.vue';

/** Saved as one goes: says so, and which presets change along. */
const desk = useDesk();
const notices = useNotices();
const { goOn } = useFirstSteps();

const state = computed(() => {
  if (desk.problem.value) return 'not saved';
  return desk.isSaved.value ? 'saved' : 'not saved yet';
});
const use = computed(() => {
  const used = desk.mark.value?.usedBy ?? [];
  if (used.length === 0) return 'No preset uses this mark yet.';
  const names =
    used.length > 2
      ? `${used.slice(0, 2).join('; ')} and ${used.length - 2} more`
      : used.join('; ');
  return `Changes along with it: ${names}.`;
});

function finish(): void {
  void notices.attempt(async () => {
    // What waits for the server is sent when that is back, wherever one is by then.
    await desk.save();
    if (desk.refusal.value) return;
    await goOn(desk.markId.value ?? 0);
  });
}
</script>

<template>
  <BenchPanel title="Mark">
    <template #end>
      <span :class="{ problem: desk.problem.value }" role="status">{{ state }}</span>
    </template>
    <p v-if="desk.problem.value" class="problem" role="alert">{{ desk.problem.value }}</p>
    <p v-else class="quiet use" :title="desk.mark.value?.usedBy.join('; ')">{{ use }}</p>
    <div class="steps">
      <button
        class="btn btn-outline-secondary"
        type="button"
        :disabled="desk.undoName.value === null"
        :title="desk.undoName.value ? `Undo: ${desk.undoName.value}` : 'Nothing to undo'"
        @click="desk.undo()"
      >
        Undo<span v-if="desk.undoName.value" class="step">{{ desk.undoName.value }}</span>
      </button>
      <button
        class="btn btn-outline-secondary redo"
        type="button"
        :disabled="desk.redoName.value === null"
        :title="desk.redoName.value ? `Redo: ${desk.redoName.value}` : 'Nothing to redo'"
        @click="desk.redo()"
      >
        Redo
      </button>
    </div>
    <template #go><BButton variant="primary" @click="finish">Done</BButton></template>
  </BenchPanel>
</template>

<style scoped>
.use,
.problem {
  display: -webkit-box;
  font-size: 0.8125rem;
  -webkit-box-orient: vertical;
  -webkit-line-clamp: 2;
  line-clamp: 2;
  overflow: hidden;
}

.problem {
  color: var(--lc-lost-deep);
}

.steps {
  display: flex;
  gap: 6px;
}

.steps .btn {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}

.steps .btn:first-child {
  flex: 1;
  min-width: 0;
  text-align: left;
}

.step {
  color: var(--lc-ink-quiet);
  font-weight: 400;
  margin-left: 7px;
  text-transform: lowercase;
}

.redo {
  flex: none;
}
</style>
