const SIGNS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';
/** Strings are joined from pieces of this many groups of three bytes. */
const PIECE_GROUPS = 4_096;

/** RFC 4648, section 4; the core has neither Buffer nor btoa. */
export function base64Of(bytes: Uint8Array): string {
  const pieces: string[] = [];
  for (let from = 0; from < bytes.length; from += PIECE_GROUPS * 3) {
    const end = Math.min(bytes.length, from + PIECE_GROUPS * 3);
    let piece = '';
    for (let at = from; at < end; at += 3) {
      const three = (bytes[at] << 16) | ((bytes[at + 1] ?? 0) << 8) | (bytes[at + 2] ?? 0);
      piece += SIGNS[three >> 18] + SIGNS[(three >> 12) & 63];
      piece += at + 1 < bytes.length ? SIGNS[(three >> 6) & 63] : '=';
      piece += at + 2 < bytes.length ? SIGNS[three & 63] : '=';
    }
    pieces.push(piece);
  }
  return pieces.join('');
}
