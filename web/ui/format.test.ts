import { describe, expect, it } from 'vitest';
import { bytesText, counted, remainingText } from './format.ts';

describe('words', () => {
  it('says sizes and times as people do', () => {
    expect([0, 300, 266_000, 1_140_000, 38_400_000, 2.5e9].map(bytesText)).toEqual([
      '0',
      '1 KB',
      '266 KB',
      '1.1 MB',
      '38 MB',
      '2.5 GB',
    ]);
    expect([2_000, 42_000, 300_000].map(remainingText)).toEqual([
      'a few seconds',
      'about 42 s',
      'about 5 min',
    ]);
    expect([counted(1, 'photo'), counted(1_200, 'photo')]).toEqual(['1 photo', '1,200 photos']);
  });
});
