import { expect, it } from 'vitest';
import { takenDates } from './takenDates.ts';

const file = (name: string, date: string): File =>
  new File(['no photo'], name, { lastModified: new Date(date).getTime() });

it('goes by the dates of the files where no camera noted one, of the first and the last, too', async () => {
  const files = Array.from({ length: 40 }, (_, index) =>
    file(`${index}.jpg`, `2026-06-${String((index % 28) + 1).padStart(2, '0')}T10:00:00`),
  );
  const dates = await takenDates(files);
  expect(dates).toHaveLength(12);
  expect(dates[0]).toEqual(new Date('2026-06-01T10:00:00'));
  expect(dates[11]).toEqual(new Date('2026-06-12T10:00:00'));
});

it('takes one for one', async () => {
  expect(await takenDates([file('a.jpg', '2026-01-02T10:00:00')])).toHaveLength(1);
});
