<script setup lang="ts">
import { computed } from 'vue';
import { BButton } from 'bootstrap-vue-next/components/BButton';
import IconPencil from '~icons/tabler/pencil';
import { filesOf } from '#core/delivery/filesOf';
import { counted } from '../ui/format.ts';
import { shortDelivery } from '../delivery/deliveryText.ts';
import { useLibrary } from '../app/library.ts';
import BenchPanel from '../ui/BenchPanel.vue';

const props = defineProps<{ total: number; selected: number; isReady: boolean }>();
defineEmits<{ edit: [id: number]; add: []; go: [] }>();
/** Ids of the deliveries that the photos go out by. */
const chosen = defineModel<readonly number[]>({ required: true });

const library = useLibrary();
const going = computed(() => chosen.value.flatMap((id) => library.deliveryOf(id) ?? []));
const deliveries = computed(() => going.value.map(({ name }) => name));
const photos = computed(() => (props.selected > 0 ? props.selected : props.total));
const files = computed(() =>
  going.value.length === 0
    ? photos.value
    : going.value.reduce((sum, { rule }) => sum + filesOf(rule, photos.value), 0),
);
const scope = computed(() =>
  props.selected > 0 ? `the ${props.selected} selected` : `all ${counted(props.total, 'photo')}`,
);

/** In the order of the list, so that the first of it is what the wall shows. */
function toggle(id: number): void {
  const isIn = chosen.value.includes(id);
  const ids = isIn ? chosen.value.filter((one) => one !== id) : [...chosen.value, id];
  chosen.value = library.deliveries.map((one) => one.id).filter((one) => ids.includes(one));
}
</script>

<template>
  <BenchPanel title="Export" :summary="deliveries.join(', ')">
    <template #end>{{ scope }}</template>
    <button
      v-if="library.deliveries.length === 0"
      class="btn btn-link align-self-start"
      type="button"
      @click="$emit('add')"
    >
      Make a delivery
    </button>
    <div v-else class="rows" role="group" aria-label="Deliveries">
      <label
        v-for="delivery in library.deliveries"
        :key="delivery.id"
        class="choice align-items-center d-flex gap-2 text-nowrap"
      >
        <input
          class="form-check-input"
          type="checkbox"
          :checked="chosen.includes(delivery.id)"
          @change="toggle(delivery.id)"
        />
        <span class="name text-truncate fw-medium">{{ delivery.name }}</span>
        <span class="quiet number text-truncate">{{ shortDelivery(delivery.rule) }}</span>
        <button
          class="change ms-auto align-items-center border-0 d-flex justify-content-center p-0"
          type="button"
          :title="`Change ${delivery.name}`"
          :aria-label="`Change ${delivery.name}`"
          @click="$emit('edit', delivery.id)"
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
/* Six of them, and the edge of another where there are more: the photos are to stay the largest. */
.rows {
  align-content: start;
  display: grid;
  flex: 1;
  gap: 3px;
  margin-right: -6px;
  max-height: 152px;
  min-height: 0;
  overflow-y: auto;
  padding-right: 6px;
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

/* Where it is narrow, what a delivery is called is told before what it makes. */
.choice .name {
  flex: none;
  max-width: 78%;
}

.choice .quiet {
  font-size: 0.8125rem;
  min-width: 0;
}
</style>
