import { formatDistanceToNowStrict } from 'date-fns';

/** Numbers and times as people read them. */

const KB = 1_000;
const MB = KB * KB;
const GB = MB * KB;
const MS_PER_SECOND = 1_000;
const SECONDS_PER_MINUTE = 60;

export function bytesText(bytes: number): string {
  if (bytes >= GB) return `${(bytes / GB).toFixed(1)} GB`;
  if (bytes >= 10 * MB) return `${Math.round(bytes / MB)} MB`;
  if (bytes >= MB) return `${(bytes / MB).toFixed(1)} MB`;
  return bytes === 0 ? '0' : `${Math.max(1, Math.round(bytes / KB))} KB`;
}

export function counted(count: number, one: string, many = `${one}s`): string {
  return `${count.toLocaleString('en')} ${count === 1 ? one : many}`;
}

export function remainingText(ms: number): string {
  const seconds = Math.ceil(ms / MS_PER_SECOND);
  if (seconds <= 5) return 'a few seconds';
  if (seconds < 90) return `about ${seconds} s`;
  return `about ${Math.round(seconds / SECONDS_PER_MINUTE)} min`;
}

export function agoText(iso: string): string {
  return formatDistanceToNowStrict(new Date(iso), { addSuffix: true });
}
