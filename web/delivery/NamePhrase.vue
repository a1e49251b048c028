<script setup lang="ts">
import { computed, ref } from 'vue';
import { NAME_TOKENS, namePatternProblem, tellsPhotosApart } from '#core/delivery/namePattern';

/** What the files of a delivery are called. What is no pattern yet is not passed on. */
const props = defineProps<{
  modelValue: string;
  /** One file of all photos, which have nothing to be told apart by. */
  isOfAll?: boolean;
}>();
const emit = defineEmits<{ 'update:modelValue': [pattern: string] }>();

const pattern = ref(props.modelValue);
const patternProblem = computed(() => namePatternProblem(pattern.value));

/** What all photos have in common. */
const OF_ALL = ['batch', 'preset', 'delivery'] as const;
const tokens = computed(() => (props.isOfAll ? OF_ALL : NAME_TOKENS));

function typePattern(next: string): void {
  pattern.value = next;
  if (!namePatternProblem(next)) emit('update:modelValue', next);
}
</script>

<template>
  <input
    class="form-control pattern"
    aria-label="Name pattern"
    :aria-invalid="patternProblem !== null"
    :value="pattern"
    @input="typePattern(($event.target as HTMLInputElement).value)"
  />
  <button
    v-for="token in tokens"
    :key="token"
    class="btn btn-outline-secondary token"
    type="button"
    @click="typePattern(`${pattern}{${token}}`)"
  >
    {{ token }}
  </button>
  <span v-if="!isOfAll && !tellsPhotosApart(pattern)" class="warning" role="status"
    >All photos of a day or batch would have one name; they get numbers. A name or number tells them
    apart.</span
  >
  <span v-if="patternProblem" class="problem" role="alert">Expected {{ patternProblem }}.</span>
</template>

<style scoped>
.pattern {
  font-family: var(--lc-sans);
  max-width: 320px;
}

.pattern[aria-invalid='true'] {
  border-color: var(--lc-lost);
}

.token {
  --bs-btn-padding-x: 0.5rem;
  --bs-btn-padding-y: 0.1rem;
  margin-left: -12px;
}

.warning {
  color: var(--lc-ink);
  flex-basis: 100%;
}

.problem {
  color: var(--lc-lost-deep);
  flex-basis: 100%;
}
</style>
