<script setup lang="ts">
import { computed } from 'vue';
import { onBeforeRouteLeave, onBeforeRouteUpdate, useRouter } from 'vue-router';
import { duplicated, without } from '#core/design/edit';
import { useResource } from '../api/useResource.ts';
import BackdropColumn from './BackdropColumn.vue';
import DesignBench from './DesignBench.vue';
import DesignStage from './DesignStage.vue';
import LayerStack from './LayerStack.vue';
import StartSheet from './StartSheet.vue';
import ErrorState from '../app/ErrorState.vue';
import { askName, namesBeside } from '../ui/ask.ts';
import PickOne from '../ui/PickOne.vue';
import SurroundSwitch from '../app/SurroundSwitch.vue';
import { newLayerId, provideDesk } from './useDesk.ts';
import { actionOf } from '../app/shortcuts.ts';
import { useUndoKeys } from '../ui/useUndoKeys.ts';
import { useTones } from '../mark/useTones.ts';
import { useLibrary } from '../app/library.ts';
import { useNotices } from '../app/notices.ts';
import { useKeys } from '../ui/useKeys.ts';

/** The mark designer: the mark large, its layers, three photos behind it, what is set below. */
const props = defineProps<{ id: number | null }>();

const desk = provideDesk();
const library = useLibrary();
const notices = useNotices();
const router = useRouter();
const tones = useTones();
const { problem, value: opened } = useResource(
  async () => {
    if (props.id !== null) await desk.open(props.id);
    return props.id;
  },
  () => props.id,
);

const toneOptions = computed(() =>
  tones.value.map(({ value, label }) => ({
    value,
    label: value === 'original' ? 'original' : label.toLowerCase(),
  })),
);

// What was changed a moment ago is sent, too; what cannot be sent now waits.
const leave = (): void => void desk.save();
onBeforeRouteLeave(leave);
onBeforeRouteUpdate(leave);
useUndoKeys({
  undo: () => props.id !== null && desk.undo(),
  redo: () => props.id !== null && desk.redo(),
  whileTyping: true,
});
useKeys((event) => {
  if (props.id === null) return false;
  const withCommand = event.ctrlKey || event.metaKey;
  const key = event.key.toLowerCase();
  if (withCommand && key === 'd') duplicate();
  else if (key === 'delete' || key === 'backspace') remove();
  else if (key === 'escape') desk.chooseNothing();
  else if (actionOf(event) === 'tone') nextTone();
  else return false;
  return true;
});

function duplicate(): void {
  if (desk.chosen.value.size === 0) return;
  const { design, copies } = duplicated(desk.design.value, desk.chosen.value, newLayerId);
  desk.change('Duplicate', design);
  desk.chosen.value = copies;
}

function remove(): void {
  if (desk.chosen.value.size === 0) return;
  desk.change('Delete', without(desk.design.value, desk.chosen.value));
  desk.chooseNothing();
}

function nextTone(): void {
  const all = tones.value.map(({ value }) => value);
  desk.tone.value = all[(all.indexOf(desk.tone.value) + 1) % all.length];
}

async function rename(): Promise<void> {
  const present = desk.mark.value?.name ?? '';
  const taken = namesBeside(library.marks, props.id);
  const name = await askName({ title: 'Rename the mark', name: present, action: 'Rename', taken });
  if (name !== null) await notices.attempt(() => library.changeMark(props.id ?? 0, { name }));
}
</script>

<template>
  <StartSheet v-if="id === null" />
  <ErrorState v-else-if="problem" :text="problem" action="All marks" @act="router.push('/marks')" />
  <div v-else-if="opened === id" class="work">
    <div class="wall work-wall">
      <LayerStack />
      <section class="middle d-flex flex-column">
        <header class="head align-items-center d-flex">
          <button
            type="button"
            class="title bg-transparent border-0"
            title="Rename"
            @click="rename"
          >
            <h1 class="text-truncate">{{ desk.mark.value?.name }}</h1>
          </button>
          <span class="ms-auto">
            <PickOne v-model="desk.tone.value" label="Tone it is shown in" :options="toneOptions" />
          </span>
          <SurroundSwitch />
        </header>
        <DesignStage class="stage" />
      </section>
      <BackdropColumn />
    </div>
    <DesignBench />
  </div>
  <div v-else class="work" aria-busy="true" aria-label="Opening the mark">
    <div class="wall work-wall" />
    <div class="work-bench" />
  </div>
</template>

<style scoped>
.wall {
  display: grid;
  grid-template-columns: 208px minmax(0, 1fr) 234px;
  grid-template-rows: minmax(0, 1fr);
}

.middle {
  min-height: 0;
  min-width: 0;
}

.head {
  gap: 16px;
  padding: 8px 14px 0;
}

.title {
  color: inherit;
  min-width: 0;
  padding: 2px 0;
}

h1 {
  font-size: 1.1rem;
}

.stage {
  flex: 1;
  min-height: 0;
}

@media (min-width: 1700px) {
  .wall {
    grid-template-columns: 250px minmax(0, 1fr) 320px;
  }
}

/* One below the other: the mark first. */
@media (max-width: 900px) {
  .wall {
    display: flex;
    flex-direction: column;
    overflow: auto;
  }

  .wall > * {
    flex: none;
  }

  .middle {
    height: 62%;
    min-height: 260px;
    order: -1;
  }

  .head {
    flex-wrap: wrap;
    gap: 4px 12px;
  }
}
</style>
