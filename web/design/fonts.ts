import { defineStore } from 'pinia';
import { ref, shallowReactive } from 'vue';
import type { Design, FontChoice } from '#core/contract/design';
import type { FontView } from '#core/contract/http';
import { Face } from '#core/lettering/face';
import { faceKey, nearestFace, type FontFaceInfo } from '#core/lettering/shippedFonts';
import { api } from '../api/client.ts';

/** Fonts for lettering, and the faces that were opened: words are shaped in the page. */
export const useFonts = defineStore('fonts', () => {
  const families = ref<readonly FontView[]>([]);
  /** Null where a face could not be read. */
  const faces = shallowReactive(new Map<string, Face | null>());
  const underway = new Map<string, Promise<void>>();

  async function load(): Promise<void> {
    families.value = await api.get<FontView[]>('/fonts');
  }

  const familyOf = (id: string): FontView | null =>
    families.value.find((family) => family.id === id) ?? null;

  function infoOf(choice: FontChoice): FontFaceInfo | null {
    return nearestFace(familyOf(choice.family)?.faces ?? [], choice);
  }

  /** The face, once it is there; asking for it opens it. Until then another of its family. */
  function face(choice: FontChoice): Face | null {
    const info = infoOf(choice);
    if (!info) return null;
    const key = faceKey(choice.family, info);
    const known = faces.get(key);
    if (known !== undefined) return known;
    void open(choice.family, info);
    const prefix = `${choice.family}/`;
    return [...faces].find(([other, some]) => other.startsWith(prefix) && some)?.[1] ?? null;
  }

  function open(family: string, info: FontFaceInfo): Promise<void> {
    const key = faceKey(family, info);
    const known = underway.get(key);
    if (known) return known;
    const opening = fetchFace(family, info).then((read) => void faces.set(key, read));
    underway.set(key, opening);
    return opening;
  }

  /** Opens all that a design is set in. */
  async function openFor({ layers }: Design): Promise<void> {
    await Promise.all(
      layers.map((layer) => {
        const info = layer.kind === 'lettering' ? infoOf(layer.lettering.font) : null;
        return info && layer.kind === 'lettering' ? open(layer.lettering.font.family, info) : null;
      }),
    );
  }

  async function add(file: File): Promise<FontView> {
    const query = new URLSearchParams({ name: file.name });
    const added = await api.post<FontView>(`/fonts?${query}`, file);
    await load();
    return added;
  }

  async function remove(family: string): Promise<void> {
    await api.delete(`/fonts/${family}`);
    await load();
  }

  return { families, load, familyOf, face, openFor, add, remove };
});

async function fetchFace(family: string, { weight, italic }: FontFaceInfo): Promise<Face | null> {
  const slant = italic ? 'italic' : 'upright';
  const response = await fetch(`/api/fonts/${family}/${weight}/${slant}`).catch(() => null);
  if (!response?.ok) return null;
  const read = Face.read(new Uint8Array(await response.arrayBuffer()));
  return read.ok ? read.value : null;
}
