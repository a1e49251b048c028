<script setup lang="ts">
import { computed } from 'vue';
import IconLower from '~icons/tabler/chevron-left';
import IconHigher from '~icons/tabler/chevron-right';
import IconRemove from '~icons/tabler/x';
import { inOrder } from '#core/batch/benchMarks';
import { allowedTones } from '#core/readability/choice';
import { useNotices } from '../../app/notices.ts';
import { markPicture } from '../../mark/markPicture.ts';
import { askName } from '../../ui/ask.ts';
import { useDraft } from '../draft.ts';
import { useMarkSets } from '../markSets.ts';

/** Marks that lie over each other, the lowest first: the one in hand is shaped on the bench. */
const draft = useDraft();
const sets = useMarkSets();
const notices = useNotices();

const THUMB_PX = 96;
const chips = computed(() => {
  const { baseMark, baseRule, others, handAt } = draft;
  const hand = { index: -1, name: draft.name, mark: baseMark, rule: baseRule };
  const beside = others.map(({ name, mark, rule }, index) => ({ index, name, mark, rule }));
  return inOrder(hand, beside, handAt).map((chip) => ({
    ...chip,
    isInHand: chip.index < 0,
    // On the grey of the chip both light and dark can be seen.
    picture: chip.mark && markPicture(chip.mark, allowedTones(chip.rule)[0], THUMB_PX),
  }));
});

/** The lowest stands first. */
const moves = [
  { word: 'lower', step: -1, icon: IconLower },
  { word: 'higher', step: 1, icon: IconHigher },
] as const;

async function keepAsSet(): Promise<void> {
  const ids = inOrder(
    draft.presetId ?? 0,
    draft.others.map(({ presetId }) => presetId),
    draft.handAt,
  );
  const name = await askName({
    title: 'Keep these marks as a set',
    name: chips.value.map((chip) => chip.name).join(' + '),
    action: 'Keep',
  });
  if (name === null) return;
  await notices.attempt(async () => {
    await sets.add(name, ids);
    notices.done(`${name} can be chosen beside the presets.`);
  });
}
</script>

<template>
  <section v-if="chips.length > 1" class="row-of-marks" aria-label="Marks on each photo">
    <ol class="d-flex flex-wrap list-unstyled m-0">
      <li v-for="chip in chips" :key="chip.name" class="laid" :class="{ hand: chip.isInHand }">
        <button
          type="button"
          class="take align-items-center d-flex"
          :aria-pressed="chip.isInHand"
          :title="chip.isInHand ? 'The bench shapes this one' : 'Shape this one'"
          :disabled="!chip.isInHand && draft.presetId === null"
          @click="!chip.isInHand && draft.takeInHand(chip.index)"
        >
          <span class="ground"><img v-if="chip.picture" :src="chip.picture" alt="" /></span>
          <span class="text-truncate">{{ chip.name }}</span>
        </button>
        <template v-if="chip.isInHand">
          <button
            v-for="(move, place) in moves"
            :key="move.word"
            type="button"
            class="off"
            :aria-label="`Lay ${chip.name} ${move.word}`"
            :title="`Lay ${chip.name} ${move.word}`"
            :disabled="
              draft.presetId === null || draft.handAt === (place === 0 ? 0 : chips.length - 1)
            "
            @click="draft.moveHand(move.step)"
          >
            <component :is="move.icon" aria-hidden="true" />
          </button>
        </template>
        <button
          v-else
          type="button"
          class="off"
          :aria-label="`Take ${chip.name} off`"
          :title="`Take ${chip.name} off`"
          @click="draft.removeMark(chip.index)"
        >
          <IconRemove aria-hidden="true" />
        </button>
      </li>
    </ol>
    <button
      class="btn btn-link flex-shrink-0"
      type="button"
      :disabled="draft.presetId === null"
      @click="keepAsSet"
    >
      Keep as a set
    </button>
  </section>
</template>

<style scoped>
.row-of-marks {
  align-items: center;
  background: var(--lc-paper);
  border-bottom: 1px solid var(--lc-hairline);
  display: flex;
  gap: 4px 14px;
  padding: 6px 18px;
}

ol {
  gap: 6px;
  min-width: 0;
}

.laid {
  align-items: stretch;
  border: 1px solid var(--lc-hairline);
  border-radius: var(--lc-radius);
  display: flex;
  max-width: 320px;
  min-width: 0;
  overflow: hidden;
}

.take,
.off {
  background: none;
  border: 0;
  color: var(--lc-ink-quiet);
}

.take {
  font-size: 0.8125rem;
  gap: 8px;
  min-width: 0;
  padding: 0 10px 0 0;
}

.off {
  border-left: 1px solid var(--lc-hairline);
  padding: 0 6px;
}

.take:hover:not(:disabled),
.off:hover:not(:disabled) {
  color: var(--lc-ink);
}

.hand {
  border-color: var(--lc-ink);
}

.hand .take {
  color: var(--lc-ink);
  font-weight: 650;
}

.ground {
  align-items: center;
  background: #8d9090;
  display: flex;
  height: 28px;
  justify-content: center;
  opacity: 0.55;
  padding: 4px;
  width: 56px;
}

.hand .ground {
  opacity: 1;
}

img {
  max-height: 100%;
  max-width: 100%;
  object-fit: contain;
}
</style>
