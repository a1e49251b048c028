<script setup lang="ts">
import { computed } from 'vue';
import type { RunWish } from '#core/contract/http';
import { isSameValue } from '#core/sameValue';
import { useLibrary } from '../app/library.ts';
import { presetsText } from '../preset/presetsText.ts';
import { wallNames } from './wallNames.ts';

/** Which marks the first delivery of a run lays: those of the wall, or those it has of its own. */
const props = defineProps<{
  wish: RunWish;
  /** Names of the presets that it goes out with; null: without a mark. */
  laid: string | null;
}>();
const emit = defineEmits<{ lay: [what: 'own' | 'wall'] }>();

const library = useLibrary();
const delivery = computed(() => library.deliveryOf(props.wish.deliveryIds[0]));
/** Where it has none, or the wall shows them, there is nothing to choose. */
const ownNames = computed(() => {
  const { presetId = null, overIds = [] } = delivery.value ?? {};
  if (presetId === null || props.laid === null) return null;
  const own = [presetId, ...overIds];
  const onWall = [props.wish, ...props.wish.over].map((mark) => mark.presetId);
  return isSameValue(own, onWall) ? null : presetsText(own, library);
});
const laysOwn = computed(
  () => ownNames.value !== null && props.wish.shownDeliveryId !== props.wish.deliveryIds[0],
);
const text = computed(() => {
  if (props.laid === null) return 'Without a mark.';
  return laysOwn.value
    ? `With ${props.laid}, as ${delivery.value?.name} has it.`
    : `With ${wallNames(props.wish)}, as the wall shows it.`;
});
</script>

<template>
  <div>
    <p class="quiet">{{ text }}</p>
    <button
      v-if="ownNames !== null"
      class="btn btn-link p-0 text-start"
      type="button"
      :title="laysOwn ? wallNames(wish) : ownNames"
      @click="emit('lay', laysOwn ? 'wall' : 'own')"
    >
      Take what {{ laysOwn ? 'the wall shows' : `${delivery?.name} has` }}
    </button>
  </div>
</template>

<style scoped>
.quiet {
  color: var(--lc-ink-quiet);
  margin: 0;
}
</style>
