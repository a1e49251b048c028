/** Whether an error is how the library of processes says that one ended: some ends are plain errors. */
export function isPoolEnd(error: unknown): boolean {
  const message = error instanceof Error ? error.message : String(error);
  return /^(Pool terminated|Worker is terminated|worker already killed)/.test(message);
}
