import type { PresetView } from '#core/contract/http';
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
import { askNameTaken } from '../ui/ask.ts';

/**
 * Preset files that were dropped. They name no mark, so one of the library goes with them; a name
 * that is taken is asked about, one file after the other.
 */
export function usePresetFiles() {
  const library = useLibrary();
  const notices = useNotices();

  /** Files that are no presets are told, with what is wrong; the others go on. */
  async function read(files: readonly File[]): Promise<void> {
    for (const file of files) {
      const preset = await presetOf(file);
      if (typeof preset === 'string') notices.problem(new Error(`${file.name}: ${preset}`));
      else await take(preset);
    }
  }

  async function take(file: PresetFile): Promise<void> {
    const taken = library.presets.find(({ name }) => name === file.name);
    if (!taken) return add(file, file.name);
    const names = library.presets.map(({ name }) => name);
    const free = freeName(file.name, names);
    const decided = await askNameTaken('preset', file.name, free);
    if (decided === 'both') await add(file, free);
    else if (decided === 'update') await update(taken, file);
  }

  async function add(file: PresetFile, name: string): Promise<void> {
    await notices.attempt(async () => {
      const markId = library.marks.filter(({ retired }) => !retired).at(-1)?.id;
      if (markId === undefined) {
        throw new Error('A preset needs a mark. Add one first, then drop the file again.');
      }
      await library.addPreset({ name, markId, rule: ruleOf(file) });
      notices.done(`${name} is there.`);
    });
  }

  /** It keeps its own mark. */
  async function update({ id, name, markId }: PresetView, file: PresetFile): Promise<void> {
    await notices.attempt(async () => {
      await library.savePreset(id, { name, markId, rule: ruleOf(file) });
      notices.done(`${name} is updated.`);
    });
  }

  return { read };
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
