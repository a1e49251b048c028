/** Enough of a folder to know its first and its last day by. */
const LOOKED_AT = 12;
/** The name of a batch must not keep it waiting. */
const PATIENCE_MS = 500;

/** When photos were taken, as their cameras noted it, else as their files say; of some of them. */
export async function takenDates(files: readonly File[]): Promise<Date[]> {
  const step = Math.max(1, (files.length - 1) / (LOOKED_AT - 1));
  const some = Array.from(
    { length: Math.min(LOOKED_AT, files.length) },
    (_, index) => files[Math.round(index * step)],
  );
  const fileDates = some.map((file) => new Date(file.lastModified));
  const noted = Promise.all(some.map((file, index) => notedDate(file, fileDates[index])));
  const late = new Promise<Date[]>((done) => setTimeout(() => done(fileDates), PATIENCE_MS));
  return Promise.race([noted, late]);
}

async function notedDate(file: File, otherwise: Date): Promise<Date> {
  try {
    const { parse } = await import('exifr');
    const facts = (await parse(file, ['DateTimeOriginal'])) as {
      DateTimeOriginal?: unknown;
    } | null;
    const date = facts?.DateTimeOriginal;
    return date instanceof Date && !Number.isNaN(date.getTime()) ? date : otherwise;
  } catch {
    return otherwise;
  }
}
