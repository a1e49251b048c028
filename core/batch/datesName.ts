const DAY = new Intl.DateTimeFormat('en', { day: 'numeric' });
const MONTH = new Intl.DateTimeFormat('en', { month: 'long' });

/**
 * A name for photos by when they were taken: "14 June 2026", "14 to 16 June 2026",
 * "30 June to 2 July 2026", "30 December 2025 to 2 January 2026".
 *
 * @param dates one or more
 */
export function datesName(dates: readonly Date[]): string {
  const times = dates.map((date) => date.getTime());
  const first = new Date(Math.min(...times));
  const last = new Date(Math.max(...times));
  const isSameYear = first.getFullYear() === last.getFullYear();
  const isSameMonth = isSameYear && first.getMonth() === last.getMonth();
  const end = `${DAY.format(last)} ${MONTH.format(last)} ${last.getFullYear()}`;
  if (isSameMonth && first.getDate() === last.getDate()) return end;
  const month = isSameMonth ? '' : ` ${MONTH.format(first)}`;
  const year = isSameYear ? '' : ` ${first.getFullYear()}`;
  return `${DAY.format(first)}${month}${year} to ${end}`;
}
