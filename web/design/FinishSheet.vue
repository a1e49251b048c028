<script setup lang="ts">
import { computed } from 'vue';
import {
  FINISH_RANGES,
  PLATE_SHAPES,
  type Finish,
  type FinishKind,
  type FinishOf,
} from '#core/contract/finish';
import { withFinish, withoutFinish } from '#core/design/edit';
import { useDesk } from './useDesk.ts';
import { useLibrary } from '../app/library.ts';
import PickOne from '../ui/PickOne.vue';
import RangeField from '../ui/RangeField.vue';
import ColourRow from './ColourRow.vue';
import { FINISH_LABELS, FINISH_PURPOSES } from './finishText.ts';
import SheetField from '../ui/SheetField.vue';

/** The settings of one finish. Lengths are percent of the mark's own measure. */
const props = defineProps<{ kind: FinishKind }>();
const emit = defineEmits<{ close: [] }>();

const desk = useDesk();
const library = useLibrary();

type Settings = Record<string, unknown>;

interface Range {
  readonly key: string;
  readonly label: string;
  readonly unit: string;
  readonly from: number;
  readonly to: number;
  readonly step: number;
  /** What is shown for a stored 1. */
  readonly times: number;
}

const length = (key: string, label: string, range: { least: number; most: number }): Range => ({
  ...{ key, label, unit: '%', step: 0.05, times: 1 },
  ...{ from: range.least, to: range.most },
});
const share = (key: string, label: string): Range => ({
  ...{ key, label, unit: '%', from: 0, to: 100, step: 1, times: 100 },
});
const angle = (label: string): Range => ({
  ...{ key: 'angle', label, unit: '°', from: -180, to: 180, step: 1, times: 1 },
});

const RANGES: Readonly<Record<FinishKind, readonly Range[]>> = {
  outline: [
    length('width', 'width', { ...FINISH_RANGES.outlineWidth, most: 3 }),
    share('strength', 'strength'),
  ],
  glow: [
    length('radius', 'radius', FINISH_RANGES.glowRadius),
    share('strength', 'strength'),
    share('opacity', 'opacity'),
  ],
  shadow: [
    length('distance', 'distance', { ...FINISH_RANGES.shadowDistance, most: 6 }),
    angle('falls towards'),
    length('softness', 'softness', { ...FINISH_RANGES.shadowSoftness, most: 6 }),
    share('strength', 'strength'),
  ],
  bevel: [
    share('depth', 'depth'),
    length('size', 'size', FINISH_RANGES.bevelSize),
    angle('light from'),
  ],
  fill: [share('opacity', 'opacity of the ink')],
  plate: [length('padding', 'padding', FINISH_RANGES.platePadding), share('strength', 'strength')],
  crispness: [share('amount', 'amount')],
};

const finish = computed(
  () => desk.finishes.value.find(({ kind }) => kind === props.kind) as Finish | undefined,
);
const settings = computed(() => (finish.value ?? {}) as unknown as Settings);
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

const POSITIONS = [
  { value: 'outside', label: 'outside' },
  { value: 'centred', label: 'centred' },
] as const;
const FORMS = [
  { value: 'raised', label: 'raised' },
  { value: 'pressed', label: 'pressed in' },
] as const;
const SHAPE_LABELS = { box: 'box', rounded: 'rounded', pill: 'pill', cloud: 'soft cloud' } as const;
const SHAPES = PLATE_SHAPES.map((value) => ({ value, label: SHAPE_LABELS[value] }));

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

const asOutline = computed(() => settings.value as FinishOf<'outline'>);
const asBevel = computed(() => settings.value as FinishOf<'bevel'>);
const asPlate = computed(() => settings.value as FinishOf<'plate'>);
</script>

<template>
  <section v-if="finish" class="sheet" :aria-label="FINISH_LABELS[kind]">
    <div class="what">
      <h3>{{ FINISH_LABELS[kind] }}</h3>
      <p class="quiet">{{ FINISH_PURPOSES[kind] }}</p>
    </div>
    <SheetField v-if="kind === 'plate'" label="shape">
      <PickOne
        label="Shape of the plate"
        :options="SHAPES"
        :model-value="asPlate.shape"
        @update:model-value="set({ shape: $event })"
      />
    </SheetField>
    <SheetField v-if="kind === 'outline'" label="position">
      <PickOne
        label="Position of the outline"
        :options="POSITIONS"
        :model-value="asOutline.position"
        @update:model-value="set({ position: $event })"
      />
    </SheetField>
    <SheetField v-if="kind === 'bevel'" label="form">
      <PickOne
        label="Form of the bevel"
        :options="FORMS"
        :model-value="asBevel.form"
        @update:model-value="set({ form: $event })"
      />
    </SheetField>
    <SheetField v-for="range in RANGES[kind]" :key="range.key" :label="range.label">
      <RangeField
        :label="`${FINISH_LABELS[kind]}, ${range.label}`"
        :model-value="Number(settings[range.key]) * range.times"
        :unit="range.unit"
        :from="range.from"
        :to="range.to"
        :step="range.step"
        :decimals="range.step < 1 ? 2 : 0"
        @update:model-value="set({ [range.key]: $event / range.times })"
      />
    </SheetField>
    <SheetField v-if="'colour' in settings" label="colour">
      <ColourRow
        :label="`Colour of the ${kind}`"
        :options="colours"
        :model-value="String(settings.colour)"
        @update:model-value="set({ colour: $event })"
      />
    </SheetField>
    <span class="end">
      <button class="btn btn-link" type="button" @click="takeOff">Take off</button>
      <button class="btn btn-outline-secondary" type="button" @click="$emit('close')">Done</button>
    </span>
  </section>
</template>

<style scoped>
.sheet {
  align-items: end;
  background: var(--lc-paper);
  border-bottom: 1px solid var(--lc-hairline);
  display: flex;
  flex-wrap: wrap;
  gap: 10px 26px;
  padding: 10px 18px 12px;
}

.what {
  max-width: 240px;
}

.what p {
  font-size: 0.8125rem;
  line-height: 1.3;
}

.end {
  display: flex;
  gap: 8px;
  margin-left: auto;
}
</style>
