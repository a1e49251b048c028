import { mount } from '@vue/test-utils';
import { expect, it } from 'vitest';
import type { RunDocumentsView, RunView } from '#core/contract/http';
import RunDocuments from './RunDocuments.vue';

const DOCUMENT: RunDocumentsView = {
  ...{ delivery: 2, written: 0, skipped: 0, outputName: null, bytes: 0, error: null },
};
const file = { deliveryId: 1, folder: '/out', fileType: 'jpeg', zip: false } as const;

function shown(document: Partial<RunDocumentsView>, part: Partial<RunView> = {}) {
  const run: RunView = {
    ...{ id: 7, batchId: 1, batchName: 'Shore', presetName: 'p', state: 'done', problem: null },
    ...{ turn: 1, createdAt: '', finishedAt: null, total: 9, written: 9, skipped: 0, failed: 0 },
    ...{ cancelled: 0, bytesBefore: 0, bytesAfter: 0, coverItemId: null, remainingMs: null },
    deliveries: [
      { ...file, name: 'Web', kind: 'files' },
      { ...file, name: 'Proofs', kind: 'sheet' },
    ],
    ...{ told: 1, documents: [{ ...DOCUMENT, ...document }], ...part },
  };
  return mount(RunDocuments, { props: { run } });
}

it('says how far it is while the run is under way', () => {
  expect(shown({}, { state: 'running', written: 3 }).text()).toBe(
    'Proofsits photos are being made ready',
  );
  expect(shown({}, { state: 'running' }).text()).toBe('Proofsis being put together');
});

it('gives the document to be downloaded, and several as a ZIP', () => {
  const one = shown({ written: 1, outputName: 'Shore.pdf', bytes: 2_000_000 });
  expect(one.text()).toContain('Shore.pdf, 2.0 MB');
  expect(one.get('a').attributes('href')).toBe('/api/runs/7/documents/2');
  const many = shown({ written: 3, outputName: 'Shore 1.tif', bytes: 9_000 });
  expect(many.text()).toContain('Shore 1.tif and 2 more');
  expect(many.get('a').attributes('href')).toBe('/api/runs/7/zip');
});

it('says why there is none', () => {
  const failed = shown({ error: 'The disk is full.' });
  expect(failed.get('[role=alert]').text()).toBe('The disk is full.');
  expect(shown({ skipped: 1 }).text()).toContain('its name is taken');
  const cancelled = shown({}, { state: 'cancelled' });
  expect(cancelled.text()).toContain('not made');
  expect(cancelled.find('a').exists()).toBe(false);
});
