import { computed, ref } from 'vue';
import { validate } from '#core/contract/explain';
import {
  presetFileSchema,
  presetRuleSchema,
  type PresetFile,
  type PresetRule,
} from '#core/contract/preset';
import { freeName } from '#core/placement/suggestName';
import { useLibrary } from '../app/library.ts';
import { useNotices } from '../app/notices.ts';

/**
 * Preset files that were dropped. They name no mark, so one of the library goes with them; a name
 * that is taken is asked about, one file after the other.
 */
export function usePresetFiles() {
  const library = useLibrary();
  const notices = useNotices();
  const waiting = ref<PresetFile[]>([]);
  const markId = ref<number | null>(null);

  const asked = computed(() => waiting.value[0] ?? null);
  const taken = computed(
    () => library.presets.find(({ name }) => name === asked.value?.name) ?? null,
  );
  const free = computed(() =>
    freeName(
      asked.value?.name ?? '',
      library.presets.map(({ name }) => name),
    ),
  );

  /** Files that are no presets are told, with what is wrong; the others go on. */
  async function read(files: readonly File[]): Promise<void> {
    markId.value ??= library.marks.filter(({ retired }) => !retired).at(-1)?.id ?? null;
    for (const file of files) {
      const preset = await presetOf(file);
      if (typeof preset === 'string') notices.problem(new Error(`${file.name}: ${preset}`));
      else waiting.value.push(preset);
    }
    await goOn();
  }

  /** Takes in what needs no answer; stops at a name that is taken. */
  async function goOn(): Promise<void> {
    while (asked.value && !taken.value) await take(asked.value.name);
  }

  async function keepBoth(): Promise<void> {
    await take(free.value);
    await goOn();
  }

  async function update(): Promise<void> {
    const preset = taken.value;
    const file = waiting.value.shift();
    if (!preset || !file) return;
    await notices.attempt(async () => {
      const { name, markId: mark } = preset;
      await library.savePreset(preset.id, { name, markId: mark, rule: ruleOf(file) });
      notices.done(`${name} is updated.`);
    });
    await goOn();
  }

  async function leave(): Promise<void> {
    waiting.value.shift();
    await goOn();
  }

  async function take(name: string): Promise<void> {
    const file = waiting.value.shift();
    if (!file) return;
    await notices.attempt(async () => {
      if (markId.value === null) {
        throw new Error('A preset needs a mark. Add one first, then drop the file again.');
      }
      await library.addPreset({ name, markId: markId.value, rule: ruleOf(file) });
      notices.done(`${name} is there.`);
    });
  }

  return { asked, taken, free, read, keepBoth, update, leave };
}

/** Without what makes it a file; the schema knows which keys are the rule's. */
function ruleOf(file: PresetFile): PresetRule {
  const rule = Object.entries(file).filter(([key]) => key in presetRuleSchema.shape);
  return presetRuleSchema.parse(Object.fromEntries(rule));
}

/** The preset in a file, or what is wrong with it. */
async function presetOf(file: File): Promise<PresetFile | string> {
  try {
    const checked = validate(
      presetFileSchema,
      JSON.parse((await file.text()).replace(/^\ufeff/, '')),
    );
    return checked.ok ? checked.value : checked.reason;
  } catch {
    return 'expected a preset file (*.preset.json), found something else.';
  }
}
