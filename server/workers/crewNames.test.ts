import { expect, it } from 'vitest';
import { queueName, queuesFor } from './crewNames.ts';
import { unfitReason } from './roll.ts';

it('a worker takes from the queues that ask for no more than it can', () => {
  expect(queuesFor([])).toEqual([queueName([])]);
  const all = queuesFor(['heic', 'untouched']);
  expect(all).toHaveLength(4);
  // What few can do comes first.
  expect(all[0]).toBe(queueName(['untouched', 'heic']));
  expect(all).toContain(queueName(['untouched']));
  expect(queuesFor(['untouched'])).not.toContain(queueName(['heic']));
});

it('one of another version, or without a folder that is needed, is given nothing', () => {
  const server = { version: '1', roots: ['photos', 'out'], store: null };
  const store = null;
  expect(unfitReason({ version: '1', roots: ['out', 'photos', 'more'], store }, server)).toBeNull();
  expect(unfitReason({ version: '2', roots: ['out', 'photos'], store }, server)).toContain(
    'version',
  );
  expect(unfitReason({ version: '1', roots: ['photos'], store }, server)).toContain('--root out=');
  const far = { version: '1', roots: [], store: 's3://studio/' };
  expect(unfitReason({ ...far, store }, far)).toContain('--store s3://studio/');
  expect(unfitReason(far, far)).toBeNull();
});
