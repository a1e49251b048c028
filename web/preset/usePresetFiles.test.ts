import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, expect, it, vi } from 'vitest';
import type { MarkView, PresetView, PresetWish } from '#core/contract/http';
import { useLibrary } from '../app/library.ts';
import { useNotices } from '../app/notices.ts';
import { asked } from '../ui/ask.ts';
import { usePresetFiles } from './usePresetFiles.ts';
import { eventually } from '../../tests/helpers/eventually.ts';

let wishes: { id: number | null; wish: PresetWish }[];
beforeEach(() => {
  setActivePinia(createPinia());
  const library = useLibrary();
  wishes = [];
  library.marks = [
    { id: 4, retired: false },
    { id: 5, retired: true },
  ] as MarkView[];
  library.presets = [{ id: 9, name: 'Low', markId: 2 }] as PresetView[];
  vi.spyOn(library, 'addPreset').mockImplementation((wish) => {
    wishes.push({ id: null, wish });
    library.presets = [...library.presets, { id: 20, ...wish } as PresetView];
    return Promise.resolve({ id: 20, ...wish } as PresetView);
  });
  vi.spyOn(library, 'savePreset').mockImplementation((id, wish) => {
    wishes.push({ id, wish });
    return Promise.resolve({ id, ...wish } as PresetView);
  });
});

const file = (name: string, content: object | string): File =>
  new File([typeof content === 'string' ? content : JSON.stringify(content)], name);
const preset = (name: string, part = {}) => ({
  ...{ format: 'light-crest/preset', version: 1, name, ...part },
});

it('takes presets in with the newest mark in use, byte order mark and all', async () => {
  const files = usePresetFiles();
  const text = `\ufeff${JSON.stringify(preset('High', { anchor: 'top' }))}`;
  await files.read([file('a.preset.json', text)]);
  expect(wishes[0].wish).toMatchObject({ name: 'High', markId: 4, rule: { anchor: 'top' } });
  expect(wishes[0].wish.rule).not.toHaveProperty('format');
});

it('says which file is wrong and how, and goes on with the others', async () => {
  const files = usePresetFiles();
  await files.read([
    file('w.json', preset('X', { anchr: 'top' })),
    file('t.json', 'no json'),
    file('g.json', preset('Good')),
  ]);
  const told = useNotices().notices.map(({ text }) => text);
  expect(told[0]).toContain('w.json: unknown key "anchr". Did you mean "anchor"?');
  expect(told[1]).toContain('t.json: expected a preset file');
  expect(wishes.map(({ wish }) => wish.name)).toEqual(['Good']);
});

it('asks about each name that is taken', async () => {
  const files = usePresetFiles();
  const reading = files.read([
    file('1.json', preset('Low', { opacity: 0.1 })),
    file('2.json', preset('Low', { opacity: 0.2 })),
    file('3.json', preset('Low', { opacity: 0.3 })),
  ]);
  const answer = async (index: number | null): Promise<void> => {
    await eventually(() => expect(asked.value).not.toBeNull());
    expect(asked.value?.question.text).toContain('There is a preset named Low.');
    asked.value?.give(index === null ? null : { index, text: '' });
  };
  await answer(0);
  await answer(1);
  await answer(null);
  await reading;
  expect(wishes).toHaveLength(2);
  expect(wishes[0]).toMatchObject({ id: null, wish: { name: 'Low 2', rule: { opacity: 0.1 } } });
  // The preset that is updated keeps its own mark.
  expect(wishes[1]).toMatchObject({
    id: 9,
    wish: { name: 'Low', markId: 2, rule: { opacity: 0.2 } },
  });
  expect(asked.value).toBeNull();
});
