<script setup lang="ts">
import { computed, ref, watch } from 'vue';
import type { PhotoView } from '#core/contract/http';
import { useLibrary } from '../app/library.ts';
import BenchSheet from '../ui/BenchSheet.vue';
import DeliveryCard from './DeliveryCard.vue';
import { useNewDelivery } from './useNewDelivery.ts';

/** A delivery is shaped above the bench, without leaving the batch. */
const props = defineProps<{ deliveryId: number | null; example: PhotoView | null }>();
const emit = defineEmits<{ choose: [id: number]; close: [] }>();

const library = useLibrary();
const newDelivery = useNewDelivery();
const newId = ref<number | null>(null);
const delivery = computed(() => library.deliveryOf(props.deliveryId));

async function add(): Promise<void> {
  const added = await newDelivery();
  if (!added) return;
  newId.value = added.id;
  emit('choose', added.id);
}

// Deleted here or in another window.
watch(delivery, (now) => !now && emit('close'));
</script>

<template>
  <BenchSheet v-if="delivery" :label="`Delivery ${delivery.name}`" @close="emit('close')">
    <DeliveryCard
      :key="delivery.id"
      class="flex-grow-1 bg-transparent border-0 p-0"
      :delivery="delivery"
      :example="example"
      :is-new="delivery.id === newId"
    />
    <template #end>
      <button class="btn btn-outline-secondary" type="button" @click="add">New delivery</button>
    </template>
  </BenchSheet>
</template>
