import { expect, it } from 'vitest';
import { datesName } from './datesName.ts';

const day = (text: string): Date => new Date(`${text}T12:00:00`);

it.each([
  [['2026-06-14'], '14 June 2026'],
  [['2026-06-14', '2026-06-14'], '14 June 2026'],
  [['2026-06-16', '2026-06-14', '2026-06-15'], '14 to 16 June 2026'],
  [['2026-06-30', '2026-07-02'], '30 June to 2 July 2026'],
  [['2025-12-30', '2026-01-02'], '30 December 2025 to 2 January 2026'],
])('%j is %s', (dates, name) => {
  expect(datesName(dates.map(day))).toBe(name);
});
