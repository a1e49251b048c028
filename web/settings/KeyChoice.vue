<script setup lang="ts">
import { computed, ref } from 'vue';
import { KEY_ACTIONS, USUAL_KEYS, type KeyAction } from '#core/contract/settings';
import { useLibrary } from '../app/library.ts';
import { ACTION_WORDS } from '../app/shortcuts.ts';

/** Another key for something that a single key does. */
const library = useLibrary();
const action = ref<KeyAction>('tone');
const problem = ref<string | null>(null);
const keyOf = (some: KeyAction): string => library.settings.keys[some] ?? USUAL_KEYS[some];
const key = computed(() => keyOf(action.value));
const hasOwn = computed(() => Object.keys(library.settings.keys).length > 0);

function set(event: Event): void {
  const field = event.target as HTMLInputElement;
  const typed = field.value.slice(-1).toLowerCase();
  field.value = key.value;
  problem.value = problemOf(typed);
  if (problem.value !== null || typed === key.value) return;
  library.changeSettings({ keys: { ...library.settings.keys, [action.value]: typed } });
}

function problemOf(typed: string): string | null {
  if (!/^[^\d\s]$/u.test(typed)) return 'A letter or a sign; digits put the mark into its place.';
  const other = KEY_ACTIONS.find((some) => some !== action.value && keyOf(some) === typed);
  return other ? `${typed} is taken: ${ACTION_WORDS[other]}.` : null;
}
</script>

<template>
  <div class="d-flex flex-wrap align-items-center gap-2">
    <select v-model="action" class="form-select w-auto mw-100" aria-label="What the key does">
      <option v-for="some in KEY_ACTIONS" :key="some" :value="some">
        {{ ACTION_WORDS[some] }}
      </option>
    </select>
    <input
      class="form-control key"
      aria-label="Its key"
      autocomplete="off"
      :value="key"
      @input="set"
      @focus="($event.target as HTMLInputElement).select()"
    />
    <button
      v-if="hasOwn"
      class="btn btn-link"
      type="button"
      @click="library.changeSettings({ keys: {} })"
    >
      The usual keys
    </button>
  </div>
  <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
</template>

<style scoped>
.key {
  text-align: center;
  width: 48px;
}

.problem {
  color: var(--lc-lost-deep);
}
</style>
