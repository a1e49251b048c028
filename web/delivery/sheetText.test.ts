import { describe, expect, it } from 'vitest';
import { deliveryRuleSchema } from '#core/contract/delivery';
import { sheetSchema } from '#core/contract/sheet';
import { existingText, shortDelivery } from './deliveryText.ts';
import { paperText, placesText, printText, sheetMarkText } from './sheetText.ts';

describe('a delivery to paper in words', () => {
  it.each([
    [{}, 'A4 upright, 10 mm free all round', 'one photo a sheet', 'one PDF at 300 dpi'],
    [
      { paper: '10x15', lies: 'photo', margin: { top: 0, right: 0, bottom: 0, left: 0 } },
      '10 × 15 cm as the photo lies, to the very edge',
      'one photo a sheet',
      'one PDF at 300 dpi',
    ],
    [
      { margin: { top: 12, bottom: 12 }, grid: { columns: 2, rows: 3 }, caption: {} },
      'A4 upright, 12 mm free above and below, 10 mm beside',
      '2 × 3 photos a sheet, with their names',
      'one PDF at 300 dpi',
    ],
    [
      {
        ...{ paper: { width: 90, height: 55.5 }, margin: { top: 1 }, fit: 'fill', as: 'tiff' },
        ...{ dpi: 600, bleed: 3, crop_marks: true, caption: { pattern: '{date}' } },
      },
      '90 × 55.5 mm upright, 1, 10, 10, 10 mm free',
      'one photo a sheet, cut to fill their places, with a line each',
      'a TIFF a sheet at 600 dpi, 3 mm bleed, crop marks',
    ],
  ])('says of %j its paper, places and print', (part, paper, places, print) => {
    const rule = sheetSchema.parse(part);
    expect([paperText(rule), placesText(rule), printText(rule)]).toEqual([paper, places, print]);
  });

  it('says where the mark goes', () => {
    const said = (mark_on: string) => sheetMarkText(sheetSchema.parse({ mark_on }));
    expect(['photo', 'margin', 'both'].map(said)).toEqual([
      'on each photo',
      'in the margin',
      'on each photo and in the margin',
    ]);
  });

  it('is short in a list, and skips no single photo', () => {
    const grid = { columns: 4, rows: 3 };
    const rule = deliveryRuleSchema.parse({ kind: 'sheet', sheet: { grid } });
    expect(shortDelivery(rule)).toBe('A4, 12 each');
    expect(existingText('skip', rule.kind)).not.toContain('photo');
  });
});
