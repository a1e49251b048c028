<script setup lang="ts">
import { computed } from 'vue';
import { FINISH_RANGES, type Finish, type FinishKind } from '#core/contract/finish';
import { withFinish, withoutFinish } from '#core/design/edit';
import { useDesk } from './useDesk.ts';
import { useLibrary } from '../app/library.ts';
import BenchSheet from '../ui/BenchSheet.vue';
import FieldRows from '../ui/FieldRows.vue';
import { shareField, type FieldSpec } from '../ui/fields.ts';
import SwatchRow from '../ui/SwatchRow.vue';
import { FINISH_LABELS, FINISH_PURPOSES } from './finishText.ts';

/** The settings of one finish. Lengths are percent of the mark's own measure. */
const props = defineProps<{ kind: FinishKind }>();
const emit = defineEmits<{ close: [] }>();

const desk = useDesk();
const library = useLibrary();

type Settings = Record<string, unknown>;

const STEP = 0.05;
const length = (key: string, word: string, range: { least: number; most: number }): FieldSpec => ({
  ...{ kind: 'range', key, word, unit: '%', step: STEP },
  ...{ from: range.least, to: range.most },
});
const angle = (word: string): FieldSpec => ({
  ...{ kind: 'range', key: 'angle', word, unit: '°', from: -180, to: 180 },
});
const choice = (
  key: string,
  word: string,
  options: Readonly<Record<string, string>>,
): FieldSpec => ({
  ...{ kind: 'choice', key, word },
  options: Object.entries(options).map(([value, label]) => ({ value, label })),
});
const COLOUR: FieldSpec = { kind: 'own', key: 'colour', word: 'colour' };
const strength = shareField('strength', 'strength');

const FIELDS: Readonly<Record<FinishKind, readonly FieldSpec[]>> = {
  outline: [
    choice('position', 'position', { outside: 'outside', centred: 'centred' }),
    length('width', 'width', { ...FINISH_RANGES.outlineWidth, most: 3 }),
    strength,
  ],
  glow: [
    length('radius', 'radius', FINISH_RANGES.glowRadius),
    strength,
    shareField('opacity', 'opacity'),
  ],
  shadow: [
    length('distance', 'distance', { ...FINISH_RANGES.shadowDistance, most: 6 }),
    angle('falls towards'),
    length('softness', 'softness', { ...FINISH_RANGES.shadowSoftness, most: 6 }),
    strength,
  ],
  bevel: [
    choice('form', 'form', { raised: 'raised', pressed: 'pressed in' }),
    shareField('depth', 'depth'),
    length('size', 'size', FINISH_RANGES.bevelSize),
    angle('light from'),
  ],
  fill: [shareField('opacity', 'opacity of the ink')],
  plate: [
    choice('shape', 'shape', { box: 'box', rounded: 'rounded', pill: 'pill', cloud: 'soft cloud' }),
    length('padding', 'padding', FINISH_RANGES.platePadding),
    strength,
  ],
  crispness: [shareField('amount', 'amount')],
};
const finish = computed(
  () => desk.finishes.value.find(({ kind }) => kind === props.kind) as Finish | undefined,
);
const settings = computed(() => (finish.value ?? {}) as unknown as Settings);
/** Each is called after its finish, since several sheets have a strength. */
const fields = computed(() => {
  const own = FIELDS[props.kind].map((field) => ({
    ...field,
    label: `${FINISH_LABELS[props.kind]}, ${field.word}`,
  }));
  return 'colour' in settings.value ? [...own, COLOUR] : own;
});

const colours = computed(() => [
  { value: 'contrast', label: 'Contrast: dark round light, light round dark', swatch: CONTRAST },
  { value: 'ink', label: 'The colour of the ink', swatch: INK },
  { value: '#000000', label: 'Black', swatch: '#000000' },
  { value: '#ffffff', label: 'White', swatch: '#ffffff' },
  ...library.settings.palette.map(({ name, colour }) => ({
    ...{ value: colour, label: name, swatch: colour },
  })),
]);
const CONTRAST = 'linear-gradient(90deg, #ffffff 50%, #10202a 50%)';
const INK = 'radial-gradient(circle, #14303d 38%, #e4ddcd 40%)';

function set(part: Settings): void {
  const name = FINISH_LABELS[props.kind];
  desk.changeFinishes(name, (finishes) => {
    // Of several layers, each keeps what it has of the finish besides what is set.
    const own = finishes.find(({ kind }) => kind === props.kind) ?? finish.value;
    return own ? withFinish(finishes, { ...own, ...part } as Finish) : [...finishes];
  });
}

function takeOff(): void {
  desk.changeFinishes(`Take off ${FINISH_LABELS[props.kind].toLowerCase()}`, (finishes) =>
    withoutFinish(finishes, props.kind),
  );
  emit('close');
}
</script>

<template>
  <BenchSheet v-if="finish" :label="FINISH_LABELS[kind]" @close="$emit('close')">
    <div class="what">
      <h3>{{ FINISH_LABELS[kind] }}</h3>
      <p class="quiet">{{ FINISH_PURPOSES[kind] }}</p>
    </div>
    <FieldRows :fields="fields" :values="settings" @change="(key, value) => set({ [key]: value })">
      <template #colour>
        <SwatchRow
          :label="`Colour of the ${kind}`"
          :options="colours"
          :chosen="[String(settings.colour)]"
          has-other
          @choose="set({ colour: $event })"
          @other="set({ colour: $event })"
        />
      </template>
    </FieldRows>
    <template #end>
      <button class="btn btn-link" type="button" @click="takeOff">Take off</button>
    </template>
  </BenchSheet>
</template>

<style scoped>
.what {
  max-width: 200px;
}

.what p {
  font-size: 0.8125rem;
  line-height: 1.3;
}
</style>
