<script setup lang="ts">
import { computed } from 'vue';
import { BButton } from 'bootstrap-vue-next/components/BButton';
import IconPencil from '~icons/tabler/pencil';
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
defineEmits<{ 'update:deliveryId': [id: number]; edit: []; add: []; go: [] }>();

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
  <BenchPanel title="Export" :summary="library.deliveryOf(deliveryId)?.name">
    <template #end>{{ scope }}</template>
    <button
      v-if="library.deliveries.length === 0"
      class="btn btn-link align-self-start"
      type="button"
      @click="$emit('add')"
    >
      Make a delivery
    </button>
    <div v-else-if="isLong" class="d-flex gap-1">
      <select
        class="form-select"
        aria-label="Delivery"
        :value="deliveryId"
        @change="$emit('update:deliveryId', Number(($event.target as HTMLSelectElement).value))"
      >
        <option v-for="delivery in library.deliveries" :key="delivery.id" :value="delivery.id">
          {{ delivery.name }}: {{ shortDelivery(delivery.rule) }}
        </option>
      </select>
      <button
        class="change align-items-center border-0 d-flex justify-content-center p-0"
        type="button"
        title="Change this delivery"
        @click="$emit('edit')"
      >
        <IconPencil />
      </button>
    </div>
    <div v-else class="rows" role="radiogroup" aria-label="Delivery">
      <label
        v-for="delivery in rows"
        :key="delivery.id"
        class="choice align-items-center d-flex gap-2 text-nowrap"
      >
        <input
          class="form-check-input"
          type="radio"
          name="delivery"
          :checked="delivery.id === deliveryId"
          @change="$emit('update:deliveryId', delivery.id)"
        />
        <span class="name text-truncate fw-medium">{{ delivery.name }}</span>
        <span class="quiet number">{{ shortDelivery(delivery.rule) }}</span>
        <button
          v-if="delivery.id === deliveryId"
          class="change ms-auto align-items-center border-0 d-flex justify-content-center p-0"
          type="button"
          :title="`Change ${delivery.name}`"
          :aria-label="`Change ${delivery.name}`"
          @click="$emit('edit')"
        >
          <IconPencil />
        </button>
      </label>
    </div>
    <template #go>
      <BButton variant="primary" :disabled="!isReady" @click="$emit('go')">
        Export {{ counted(files, 'file') }}
      </BButton>
    </template>
  </BenchPanel>
</template>

<style scoped>
.rows {
  display: grid;
  gap: 5px;
}

.choice {
  cursor: pointer;
  min-width: 0;
}

.choice .form-check-input {
  flex: none;
  margin: 0;
}

.change {
  background: none;
  border-radius: var(--lc-radius);
  color: var(--lc-ink-quiet);
  flex: none;
  height: 24px;
  margin-block: -2px;
  width: 24px;
}

.change:hover {
  background: var(--lc-paper-deep);
  color: var(--lc-ink);
}

.choice .quiet {
  font-size: 0.8125rem;
}
</style>
