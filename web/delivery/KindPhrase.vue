<script setup lang="ts">
import { DELIVERY_KINDS, type DeliveryKind, type DeliveryRule } from '#core/contract/delivery';
import { tellsPhotosApart } from '#core/delivery/namePattern';
import PickOne from '../ui/PickOne.vue';
import { KIND_TEXTS } from './deliveryText.ts';

/** What a delivery makes of photos: a file of each, or something of all together. */
const props = defineProps<{ rule: DeliveryRule }>();
const emit = defineEmits<{ rule: [part: Partial<DeliveryRule>] }>();

const KINDS = DELIVERY_KINDS.map((value) => ({ value, label: KIND_TEXTS[value] }));

/** What was named after each photo is named after all of them, and the other way round. */
function setKind(kind: DeliveryKind): void {
  const isEach = tellsPhotosApart(props.rule.name_pattern);
  const pattern = kind === 'files' ? '{name}' : '{batch}';
  const name = isEach === (kind === 'files') ? {} : { name_pattern: pattern };
  emit('rule', { kind, ...name });
}
</script>

<template>
  <PickOne
    label="What is made"
    :options="KINDS"
    :model-value="rule.kind"
    @update:model-value="setKind"
  />
</template>
