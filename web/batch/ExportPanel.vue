<script setup lang="ts">
import { computed } from 'vue';
import { BButton } from 'bootstrap-vue-next/components/BButton';
import { counted } from '../ui/format.ts';
import { shortDelivery } from '../delivery/deliveryText.ts';
import { useLibrary } from '../app/library.ts';
import BenchPanel from '../ui/BenchPanel.vue';

const props = defineProps<{
  deliveryId: number | null;
  total: number;
  selected: number;
  isReady: boolean;
}>();
defineEmits<{ 'update:deliveryId': [id: number]; go: [] }>();

/** More deliveries than this would crowd the bench; they are in a list then. */
const SHOWN_AS_ROWS = 3;
const library = useLibrary();
const rows = computed(() => library.deliveries.slice(0, SHOWN_AS_ROWS));
const isLong = computed(() => library.deliveries.length > SHOWN_AS_ROWS);
const files = computed(() => (props.selected > 0 ? props.selected : props.total));
const scope = computed(() =>
  props.selected > 0 ? `the ${props.selected} selected` : `all ${counted(props.total, 'photo')}`,
);
</script>

<template>
  <BenchPanel title="Export">
    <template #end>{{ scope }}</template>
    <RouterLink v-if="library.deliveries.length === 0" to="/deliveries">Make a delivery</RouterLink>
    <select
      v-else-if="isLong"
      class="form-select"
      aria-label="Delivery"
      :value="deliveryId"
      @change="$emit('update:deliveryId', Number(($event.target as HTMLSelectElement).value))"
    >
      <option v-for="delivery in library.deliveries" :key="delivery.id" :value="delivery.id">
        {{ delivery.name }}: {{ shortDelivery(delivery.rule) }}
      </option>
    </select>
    <div v-else class="rows" role="radiogroup" aria-label="Delivery">
      <label v-for="delivery in rows" :key="delivery.id" class="choice">
        <input
          class="form-check-input"
          type="radio"
          name="delivery"
          :checked="delivery.id === deliveryId"
          @change="$emit('update:deliveryId', delivery.id)"
        />
        <span class="name">{{ delivery.name }}</span>
        <span class="quiet number">{{ shortDelivery(delivery.rule) }}</span>
      </label>
    </div>
    <BButton class="go" variant="primary" :disabled="!isReady" @click="$emit('go')">
      Export {{ counted(files, 'file') }}
    </BButton>
  </BenchPanel>
</template>

<style scoped>
.rows {
  display: grid;
  gap: 5px;
}

.choice {
  align-items: center;
  cursor: pointer;
  display: flex;
  gap: 8px;
  min-width: 0;
  white-space: nowrap;
}

.choice .form-check-input {
  flex: none;
  margin: 0;
}

.name {
  font-weight: 500;
  overflow: hidden;
  text-overflow: ellipsis;
}

.choice .quiet {
  font-size: 0.8125rem;
}

.go {
  font-size: 1rem;
  margin-top: auto;
  padding-block: 8px;
}
</style>
