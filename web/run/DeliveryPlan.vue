<script setup lang="ts">
import { computed } from 'vue';
import type { DeliveryPlanView } from '#core/contract/http';
import { useLibrary } from '../app/library.ts';
import {
  colourText,
  existingText,
  metadataText,
  sizeText,
  typeText,
} from '../delivery/deliveryText.ts';
import { playingText } from '../delivery/showText.ts';
import { paperText, placesText, printText } from '../delivery/sheetText.ts';
import { bytesText } from '../ui/format.ts';

/** What a run will do for one of its deliveries: what the files are, where they go, what they are called. */
const props = defineProps<{
  plan: DeliveryPlanView;
  /** The run has no other; then its bytes are told with the run. */
  isOne: boolean;
}>();

const library = useLibrary();
const rule = computed(() => library.deliveryOf(props.plan.deliveryId)?.rule ?? null);
const ruleText = computed(() => {
  const said = rule.value;
  if (!said) return '';
  const existing = existingText(said.existing, said.kind);
  if (said.kind === 'sheet') {
    const { sheet } = said;
    return [paperText(sheet), placesText(sheet), printText(sheet), existing].join(', ');
  }
  if (said.kind === 'show') {
    const { show, file } = said;
    return [playingText(show), typeText(file), sizeText(said), existing].join(', ');
  }
  const { file, metadata } = said;
  const what = [typeText(file), sizeText(said), colourText(said), metadataText(metadata)];
  return [...what, existing].join(', ');
});
const examples = computed(() => {
  const { examples: names } = props.plan;
  const shown = props.isOne ? names : names.slice(0, 1);
  return `${shown.join(', ')}${props.plan.files > shown.length ? ' …' : ''}`;
});
</script>

<template>
  <li class="plan">
    <h2>{{ plan.name }}</h2>
    <p v-if="rule" class="rule">
      {{ ruleText }}<template v-if="!isOne">; about {{ bytesText(plan.estimatedBytes) }}</template
      >.
    </p>
    <dl>
      <template v-if="!isOne">
        <dt>mark</dt>
        <dd>{{ plan.preset ?? 'none' }}</dd>
      </template>
      <dt>into</dt>
      <dd :title="plan.folder">{{ plan.folder }}</dd>
      <dt>named</dt>
      <dd>{{ examples }}</dd>
    </dl>
  </li>
</template>

<style scoped>
.plan {
  display: grid;
  gap: 2px;
}

.rule {
  font-size: 0.875rem;
}

dl {
  display: grid;
  font-size: 0.875rem;
  gap: 0 10px;
  grid-template-columns: 52px minmax(0, 1fr);
  margin: 0;
}

dt {
  color: var(--lc-ink-quiet);
  font-weight: 400;
}

dd {
  margin: 0;
  overflow-wrap: anywhere;
}
</style>
