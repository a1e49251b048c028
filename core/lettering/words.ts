import type { Lettering } from '../contract/design.ts';
import { YEAR_TOKEN } from '../contract/design.ts';

/** The lines that are set: the year filled in, the case as wished. */
export function linesOf({ text, letterCase }: Lettering, year: number): string[] {
  const filled = text.replaceAll(YEAR_TOKEN, String(year));
  const cased =
    letterCase === 'capitals'
      ? filled.toUpperCase()
      : letterCase === 'small'
        ? filled.toLowerCase()
        : filled;
  return cased.split('\n');
}

/** Whether the words follow the year of the photo. */
export function followsYear({ text }: Pick<Lettering, 'text'>): boolean {
  return text.includes(YEAR_TOKEN);
}
