import { mount } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it } from 'vitest';
import { metadataSchema, type MetadataRule } from '#core/contract/delivery';
import { useLibrary } from '../app/library.ts';
import { metadataText } from './deliveryText.ts';
import MetadataPhrase from './MetadataPhrase.vue';

const rule = (part: object = {}): MetadataRule => metadataSchema.parse(part);
beforeEach(() => setActivePinia(createPinia()));

function shown(part: object = {}) {
  return mount(MetadataPhrase, { props: { modelValue: rule(part) } });
}

describe('what files say', () => {
  it('is chosen in one row, without losing who is named', async () => {
    const phrase = shown({ artist: 'Ines Marlow' });
    const only = phrase.findAll('[role=radio]').find((one) => one.text().includes('copyright'));
    await only?.trigger('click');
    expect(phrase.emitted('update:modelValue')).toEqual([
      [rule({ keep: 'copyright', artist: 'Ines Marlow' })],
    ]);
  });

  it('names what is typed, and nobody where it is emptied', async () => {
    const phrase = shown({ copyright: '© 2025' });
    const [artist, copyright] = phrase.findAll('input');
    await artist.setValue('  Ines Marlow ');
    await copyright.setValue(' ');
    const [[first], [second]] = phrase.emitted<[MetadataRule]>('update:modelValue') ?? [];
    expect(first.artist).toBe('Ines Marlow');
    expect(second.copyright).toBeNull();
  });

  it('says what is no address, and sends nothing of it', async () => {
    const phrase = shown({ artist: 'Ines Marlow' });
    const address = phrase.findAll('input')[3];
    await address.setValue('quillon bay');
    expect(phrase.emitted('update:modelValue')).toBeUndefined();
    expect(phrase.get('[role=alert]').text()).toContain('https://');
    await address.setValue('https://quillon-bay.example/terms');
    expect(phrase.find('[role=alert]').exists()).toBe(false);
    expect(phrase.emitted('update:modelValue')).toHaveLength(1);
  });

  it('is signed as in Settings, where those say something', async () => {
    expect(shown().find('button.btn').exists()).toBe(false);
    const library = useLibrary();
    library.settings = { ...library.settings, name: 'Ines Marlow', copyright: '© 2026' };
    const phrase = shown();
    await phrase.get('button.btn').trigger('click');
    expect(phrase.emitted('update:modelValue')).toEqual([
      [rule({ artist: 'Ines Marlow', copyright: '© 2026' })],
    ]);
  });
});

describe('in words', () => {
  it.each([
    [{}, 'with its metadata, but not the place it was taken'],
    [{ keep: 'copyright' }, 'with its copyright only'],
    [{ keep: 'none', copyright: '© 2026' }, 'without metadata, signed © 2026'],
    [{ keep: 'none', usage: 'Once.' }, 'without metadata, signed with usage terms'],
  ])('%j', (part, text) => {
    expect(metadataText(rule(part))).toBe(text);
  });
});
