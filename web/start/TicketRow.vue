<script setup lang="ts">
import { computed } from 'vue';
import { useLibrary } from '../app/library.ts';
import { shortDelivery } from '../delivery/deliveryText.ts';
import type { Dropped } from '../ui/droppedFiles.ts';
import LandingPlace from '../ui/LandingPlace.vue';

/** The favourite deliveries as tickets: photos dropped on one, or chosen for it, go straight out by it. */
defineEmits<{ dropped: [dropped: Dropped, deliveryId: number] }>();

const library = useLibrary();
const tickets = computed(() => library.deliveries.filter((delivery) => delivery.favourite));
const presetName = (id: number | null): string =>
  library.presetOf(id)?.name ?? 'the preset you choose';
</script>

<template>
  <div class="tickets">
    <LandingPlace
      v-for="delivery in tickets"
      :key="delivery.id"
      :label="delivery.name"
      @dropped="$emit('dropped', $event, delivery.id)"
    >
      <template #default="{ isOver, chooseFiles }">
        <button
          type="button"
          class="ticket d-grid position-relative text-start w-100"
          :class="{ over: isOver }"
          :aria-label="`${delivery.name}: choose photos for it`"
          @click="chooseFiles"
        >
          <b class="serif">{{ delivery.name }}</b>
          <span class="number">{{ shortDelivery(delivery.rule) }}</span>
          <span class="quiet text-truncate">{{ presetName(delivery.presetId) }}</span>
          <span class="hint quiet">drop photos, or click</span>
        </button>
      </template>
    </LandingPlace>
  </div>
</template>

<style scoped>
.tickets {
  display: grid;
  gap: 14px;
  grid-template-columns: repeat(auto-fill, minmax(min(270px, 100%), 1fr));
}

.ticket.over {
  background: var(--lc-brass-pale);
  border-color: var(--lc-brass);
}

.ticket {
  background: var(--lc-card);
  border: 1px solid var(--lc-hairline);
  border-left: 4px solid var(--lc-brass-light);
  border-radius: 6px;
  color: var(--lc-ink);
  gap: 2px;
  padding: 14px 18px;
}

.ticket:hover {
  border-color: var(--lc-brass-light);
}

.ticket b {
  font-size: 1.2rem;
  font-weight: 500;
}

.hint {
  font-size: 0.78rem;
  position: absolute;
  right: 14px;
  top: 16px;
}

.ticket.over {
  background: var(--lc-brass-pale);
  border-color: var(--lc-brass);
}
</style>
