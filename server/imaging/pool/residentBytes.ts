import { readFileSync } from 'node:fs';

const PAGE_BYTES = 4_096;

/** Memory that a process holds; zero where the system does not tell, or the process is gone. */
export function residentBytes(pid: number): number {
  try {
    return Number(readFileSync(`/proc/${pid}/statm`, 'utf8').split(' ')[1]) * PAGE_BYTES;
  } catch {
    return 0;
  }
}
