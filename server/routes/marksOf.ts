import type { MarkRow } from '../db/markRows.ts';
import { notFound, unusable } from '../http/errors.ts';
import type { House } from '../house.ts';

/** Marks as requests name them. */
export function marksOf({ tables, marks, lifts }: Pick<House, 'tables' | 'marks' | 'lifts'>) {
  const markOf = (id: number): MarkRow => {
    const mark = tables.marks.get(id);
    if (!mark) throw notFound('That mark');
    return mark;
  };

  /** With its artwork there: one that is still being lifted is waited for. */
  const drawableMark = async (id: number): Promise<MarkRow> => {
    const settled = await lifts.settled(id);
    if (!settled.ok) throw unusable(settled.reason);
    return markOf(id);
  };

  /**
   * The mark as it was in a version: pictures are kept for good under the version they were asked for,
   * so they must be of that one.
   */
  const atVersion = async (id: number, version: number): Promise<MarkRow> => {
    const mark = await drawableMark(id);
    const row = marks.atVersion(mark, version);
    if (!row || row.isPending) throw notFound(`Version ${version} of ${mark.name}`);
    return row;
  };

  return { markOf, drawableMark, atVersion };
}
