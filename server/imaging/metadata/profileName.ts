const PROFILE_NAME_TAG = 'desc';

/** The description a colour profile gives of itself (ICC.1, `desc` tag), e.g. "Display P3". */
export function profileName(icc: Buffer | null): string | null {
  if (!icc || icc.length < 132) return null;
  const count = Math.min(icc.readUInt32BE(128), 100);
  for (let index = 0; index < count; index++) {
    const entry = 132 + index * 12;
    if (entry + 12 > icc.length) return null;
    if (icc.toString('latin1', entry, entry + 4) !== PROFILE_NAME_TAG) continue;
    return printable(icc, icc.readUInt32BE(entry + 4), icc.readUInt32BE(entry + 8));
  }
  return null;
}

function printable(icc: Buffer, at: number, length: number): string | null {
  if (at + 12 > icc.length) return null;
  const isUtf16 = icc.toString('latin1', at, at + 4) === 'mluc';
  const bytes = isUtf16
    ? icc.subarray(at + 28, at + Math.min(length, 200))
    : icc.subarray(at + 12, at + Math.min(length, 112));
  // UTF-16 big-endian of the names in use is ASCII with zero bytes between.
  const text = bytes
    .toString('latin1')
    .replace(/\0(?=.)/g, '')
    .split('\0', 1)[0];
  return text.replace(/[^\x20-\x7e]/g, '').trim() || null;
}
