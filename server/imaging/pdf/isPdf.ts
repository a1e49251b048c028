export function isPdf(bytes: Uint8Array): boolean {
  // Some programs write a few bytes before the header; readers look for it in the first kilobyte.
  return Buffer.from(bytes.subarray(0, 1_024)).includes('%PDF-');
}
