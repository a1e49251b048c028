<script setup lang="ts">
import { storeToRefs } from 'pinia';
import { ref } from 'vue';
import type { PhotoView } from '#core/contract/http';
import { resizeFrame } from '#core/delivery/resizeFrame';
import BenchTray from '../preset/bench/BenchTray.vue';
import DeliveryBench from '../delivery/DeliveryBench.vue';
import { useDeliveryBench } from '../delivery/useDeliveryBench.ts';
import ExportPanel from './ExportPanel.vue';
import AdjustedSheet from './AdjustedSheet.vue';
import ScopePick from './ScopePick.vue';
import BatchOverview from '../readability/BatchOverview.vue';
import BatchHead from './BatchHead.vue';
import CloserLook from './look/CloserLook.vue';
import EmptyWall from './EmptyWall.vue';
import ErrorState from '../app/ErrorState.vue';
import LandingPlace from '../ui/LandingPlace.vue';
import PhotoNotes from './PhotoNotes.vue';
import PhotoWall from './PhotoWall.vue';
import SheetStage from '../run/SheetStage.vue';
import RunConfirm from '../run/RunConfirm.vue';
import UploadTray from './UploadTray.vue';
import { useSpoken } from '../ui/spoken.ts';
import { useOpenBatch } from './useOpenBatch.ts';
import { useBatchContent } from './useBatchContent.ts';
import { useBatchKeys } from './useBatchKeys.ts';
import { useExport } from './useExport.ts';
import { useInHand } from './useInHand.ts';
import { useWallFilter } from './useWallFilter.ts';
import { useWallSize } from './useWallSize.ts';
import { useWallSelection } from './useWallSelection.ts';
import { useWallWords } from './useWallWords.ts';
import { useBatches } from './batches.ts';

const props = defineProps<{ id: number }>();

/** Stands in while there is no photo to take the proportions from. */
const USUAL_PHOTO = { width: 6000, height: 4000 };

const batches = useBatches();
const { photos } = storeToRefs(batches);

const { problem, isLoading, deliveryIds, load, choosePreset } = useOpenBatch(() => props.id);
const isLooking = ref(false);
const landing = ref<InstanceType<typeof LandingPlace> | null>(null);
const { show, sort, find, shown, signs } = useWallFilter(photos);
const { selected, currentId, current, toggle, choose, selectAll, selectNone, step } =
  useWallSelection(shown, photos);

const { scope, upright, inHand, told, copySource, leaveOut } = useInHand({
  ...{ photos, selected, current, isLooking },
});

useSpoken(() => (selected.value.size > 0 ? `${selected.value.size} selected` : ''));

function lookAt(photo: PhotoView): void {
  currentId.value = photo.id;
  isLooking.value = true;
}

const exporting = useExport(() => props.id, { photos, selected, deliveryIds });
const { canExport, isConfirming, isShowingSheets, alone, wish } = exporting;
const { goToExport, deliverBy, lay, leaveConfirm } = exporting;
const resize = useWallSize(photos, deliveryIds);
const { isComingIn, waitsFor, emptyTitle, showAll } = useWallWords({
  ...{ photos, isLoading, show, find, batchId: () => props.id },
});
function showUnclear(kind: 'faint' | 'lost'): void {
  show.value = kind;
  isLooking.value = false;
  leaveConfirm();
}

const { shapedId, shape, chooseToo, addDelivery } = useDeliveryBench(deliveryIds);
const selection = { selected, selectNone };
const { take, removeSelected, keepPins } = useBatchContent(() => props.id, selection);

/** Escape leaves one thing at a time, the innermost first. */
function leaveOne(): void {
  if (isConfirming.value) leaveConfirm();
  else if (isLooking.value) isLooking.value = false;
  else selectNone();
}

const { isMarkHidden } = useBatchKeys({
  ...{ current, selectAll, toggle, step, leaveOut, leaveOne },
  look: () => (isLooking.value = true),
  goToExport: () => void goToExport(),
});
</script>

<template>
  <ErrorState v-if="problem" :text="problem" action="Try again" @act="load" />
  <LandingPlace v-else ref="landing" class="work" label="Photos for this batch" @dropped="take">
    <template #default="{ isOver }">
      <div class="wall work-wall d-grid" :class="{ over: isOver }">
        <BatchHead
          v-if="batches.open && !isLooking"
          :batch="batches.open"
          :count="photos.length"
          :selected="selected.size"
          @add="landing?.chooseFiles()"
          @all="selectAll"
          @none="selectNone"
          @remove="removeSelected"
          @leave-out="leaveOut"
        />
        <BatchOverview
          v-if="batches.open && !isLooking && photos.length > 0 && !isShowingSheets"
          v-model:show="show"
          v-model:sort="sort"
          v-model:find="find"
          :resize="resize"
          :hide-mark="isMarkHidden"
          :current="current"
          :pins="batches.open.pins"
          v-bind="signs"
          @look="lookAt"
          @pins="keepPins"
        />
        <SheetStage v-if="isShowingSheets" class="stage" :wish="wish" />
        <CloserLook
          v-else-if="isLooking && current"
          class="stage"
          :photo="current"
          :resize="resize"
          :hide-mark="isMarkHidden"
          @close="isLooking = false"
          @step="step"
          @export="goToExport(current.id)"
        />
        <PhotoWall
          v-else-if="shown.length > 0"
          class="stage"
          :photos="shown"
          :selected="selected"
          :current-id="currentId"
          :resize="resize"
          :hide-mark="isMarkHidden"
          @choose="choose"
          @look="isLooking = true"
          @export="goToExport($event.id)"
        />
        <EmptyWall
          v-else
          class="stage"
          :title="emptyTitle"
          :waits-for="waitsFor"
          @all="showAll"
          @files="landing?.chooseFiles()"
          @folder="landing?.chooseFolder()"
        />
      </div>
      <UploadTray :batch-id="id" />
      <PhotoNotes :photos="photos" />
      <RunConfirm
        v-if="isConfirming && batches.open"
        :wish="wish"
        :batch-name="batches.open.name"
        :is-still-coming-in="isComingIn"
        :alone="alone"
        @deliver="deliverBy"
        @lay="lay"
        @close="leaveConfirm"
        @show-unclear="showUnclear"
      />
      <BenchTray
        v-else
        :frame="resizeFrame(current ?? photos[0] ?? USUAL_PHOTO, resize)"
        :inert="isLoading"
        @choose="choosePreset"
      >
        <template #bar>
          <ScopePick
            v-model="scope"
            :all="photos.length"
            :some="inHand.length"
            :upright="upright"
            :is-looking="isLooking"
          />
        </template>
        <template #sheet>
          <AdjustedSheet :photos="told" :source="copySource" />
          <DeliveryBench
            v-if="shapedId !== null"
            :delivery-id="shapedId"
            :example="current ?? photos[0] ?? null"
            @choose="chooseToo"
            @close="shapedId = null"
          />
        </template>
        <ExportPanel
          v-model="deliveryIds"
          :total="photos.length"
          :selected="selected.size"
          :is-ready="canExport"
          @edit="shape"
          @add="addDelivery"
          @go="goToExport()"
        />
      </BenchTray>
    </template>
  </LandingPlace>
</template>

<style scoped>
.wall {
  gap: 12px;
  grid-template-columns: minmax(0, 1fr);
  grid-template-rows: auto auto minmax(0, 1fr);
  padding: 12px 6px 0 18px;
}

.wall.over {
  box-shadow: inset 0 0 0 5px var(--lc-brass-light);
}

.stage {
  grid-row: 3;
  min-height: 0;
}

.stage:nth-child(2) {
  grid-row: 2 / 4;
}

.stage:only-child {
  grid-row: 1 / 4;
}

@media (max-width: 640px), (max-height: 700px) {
  .wall {
    gap: 8px;
    padding-top: 8px;
  }
}

@media (max-width: 640px) {
  .wall {
    padding-left: 10px;
  }
}

@media (max-height: 460px) {
  .wall {
    grid-template-rows: auto auto 76vh;
    height: auto;
  }
}
</style>
