import { join } from 'node:path';
import { PROJECT_FOLDER } from '#server/projectFolder';
import { BATCHES, MARKS, PRESETS, type DemoPreset, type MarkKey } from './scenario.ts';

/** What a library of one's own is given to try it with: a part of the demo that is there at once. */

export const DEMO_FOLDER = join(PROJECT_FOLDER, 'demo');
export const EXAMPLE_PHOTOS = join(DEMO_FOLDER, 'photos');

interface ExampleMark {
  readonly key: MarkKey;
  readonly name: string;
  readonly path: string;
}

/** The signature as outlines: lifting it from its photo takes seconds. */
const FILES: Partial<Record<MarkKey, string>> = {
  signature: 'signature.svg',
  crest: 'crest-logo.svg',
};

export const EXAMPLE_MARKS: readonly ExampleMark[] = MARKS.flatMap(({ key, name }) => {
  const file = FILES[key];
  return file === undefined ? [] : [{ key, name, path: join(DEMO_FOLDER, 'marks', file) }];
});

export const EXAMPLE_PRESETS: readonly DemoPreset[] = PRESETS.filter(({ mark }) => mark in FILES);

export const EXAMPLE_BATCH: string =
  BATCHES.find(({ photos }) => photos === 'all')?.name ?? 'Examples';
