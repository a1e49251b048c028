<script setup lang="ts">
import { BModal } from 'bootstrap-vue-next/components/BModal';
import { ref, watch } from 'vue';
import {
  PEN_RANGES,
  penSettingsSchema,
  type PenDrawing,
  type PenSettings,
  type PenStroke,
} from '#core/contract/pen';
import PenSheet from '../pen/PenSheet.vue';
import RangeField from '../ui/RangeField.vue';

/** A sheet to draw strokes on, for a layer or for the flourish under words. */
const props = defineProps<{ title: string; action: string; drawing?: PenDrawing | null }>();
const emit = defineEmits<{ done: [drawing: PenDrawing] }>();
const isOpen = defineModel<boolean>({ required: true });

const strokes = ref<PenStroke[]>([]);
const pen = ref<PenSettings>(penSettingsSchema.parse({}));

watch(isOpen, (open) => {
  if (!open) return;
  strokes.value = [...(props.drawing?.strokes ?? [])];
  pen.value = props.drawing?.pen ?? penSettingsSchema.parse({});
});

function finish(): void {
  isOpen.value = false;
  emit('done', { strokes: strokes.value, pen: pen.value });
}
</script>

<template>
  <BModal v-model="isOpen" title-tag="h2" :title="title" size="xl" centered no-footer>
    <PenSheet class="sheet" :strokes="strokes" :pen="pen" @stroke="strokes.push($event)" />
    <div class="below align-items-end d-flex">
      <label class="weight">
        <span class="quiet">line weight</span>
        <RangeField
          v-model="pen.weight"
          label="Line weight"
          unit="px"
          :from="PEN_RANGES.weightPx.least"
          :to="PEN_RANGES.weightPx.most"
          :step="0.5"
        />
      </label>
      <button
        class="btn btn-outline-secondary"
        type="button"
        :disabled="strokes.length === 0"
        @click="strokes.pop()"
      >
        Undo stroke
      </button>
      <button
        class="btn btn-primary"
        type="button"
        :disabled="strokes.length === 0"
        @click="finish"
      >
        {{ action }}
      </button>
    </div>
  </BModal>
</template>

<style scoped>
.sheet {
  height: 380px;
}

.below {
  gap: 12px;
  margin-top: 14px;
}

.weight {
  flex: 1;
  max-width: 320px;
  margin-right: auto;
}
</style>
