import { expect, it } from 'vitest';
import type { RunItemView } from '#core/contract/http';
import { madeByText } from './madeBy.ts';

const item = (madeBy: string | null, status = 'written') => ({ madeBy, status }) as RunItemView;

it('says who made how many, and nothing where no worker helped', () => {
  expect(madeByText([])).toBe('');
  expect(madeByText([item(null), item(null)])).toBe('');
  expect(madeByText([item(null), item('attic'), item('attic'), item('attic', 'failed')])).toBe(
    'Made by attic (2), this machine (1).',
  );
});
