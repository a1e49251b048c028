<script setup lang="ts">
import { onMounted, ref } from 'vue';
import type { InboxView } from '#core/contract/http';
import InboxCard from './InboxCard.vue';
import InboxDialog from './InboxDialog.vue';
import { useInboxes } from './inboxes.ts';

/** The watched folders, where there are any. */
const inboxes = useInboxes();
const isAsking = ref(false);
const changed = ref<InboxView | null>(null);
// A list that is not there yet comes when the server is back.
onMounted(() => inboxes.load().catch(() => undefined));

function ask(inbox: InboxView | null): void {
  changed.value = inbox;
  isAsking.value = true;
}
defineExpose({ begin: () => ask(null) });
</script>

<template>
  <section v-if="inboxes.inboxes.length > 0" class="inboxes" aria-label="Watched folders">
    <InboxCard
      v-for="inbox in inboxes.inboxes"
      :key="inbox.id"
      :inbox="inbox"
      @change="ask(inbox)"
    />
  </section>
  <InboxDialog v-model="isAsking" :inbox="changed" />
</template>

<style scoped>
.inboxes {
  display: grid;
  gap: 16px 22px;
  grid-template-columns: repeat(auto-fill, minmax(min(420px, 100%), 1fr));
  margin-bottom: 28px;
}
</style>
