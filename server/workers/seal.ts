import { createCipheriv, createDecipheriv, createHash, randomBytes } from 'node:crypto';
import { deserialize, serialize } from 'node:v8';

/**
 * What server and workers say to each other, sealed with the token (AES-256 in Galois/counter mode):
 * whoever only reaches the Redis between them can neither read it nor put in something of their own.
 */
export interface Seal {
  readonly close: (value: unknown) => string;
  /** @throws where it was not sealed with the same token, or was changed */
  readonly open: (sealed: string) => unknown;
  readonly closeBytes: (bytes: Uint8Array) => Buffer;
  readonly openBytes: (sealed: Uint8Array) => Buffer;
  /** A name of the token that does not tell it. */
  readonly name: string;
}

const CIPHER = 'aes-256-gcm';
const NONCE_BYTES = 12;
const TAG_BYTES = 16;

export function sealOf(token: string): Seal {
  const key = createHash('sha256').update(`light-crest seal ${token}`).digest();
  const name = createHash('sha256').update(`light-crest name ${token}`).digest('hex').slice(0, 12);

  function closeBytes(bytes: Uint8Array): Buffer {
    const nonce = randomBytes(NONCE_BYTES);
    const cipher = createCipheriv(CIPHER, key, nonce);
    const body = Buffer.concat([cipher.update(bytes), cipher.final()]);
    return Buffer.concat([nonce, cipher.getAuthTag(), body]);
  }
  function openBytes(sealed: Uint8Array): Buffer {
    const nonce = sealed.subarray(0, NONCE_BYTES);
    const decipher = createDecipheriv(CIPHER, key, nonce, { authTagLength: TAG_BYTES });
    decipher.setAuthTag(sealed.subarray(NONCE_BYTES, NONCE_BYTES + TAG_BYTES));
    return Buffer.concat([
      decipher.update(sealed.subarray(NONCE_BYTES + TAG_BYTES)),
      decipher.final(),
    ]);
  }
  return {
    ...{ closeBytes, openBytes, name },
    close: (value) => closeBytes(serialize(value)).toString('base64'),
    open: (sealed) => deserialize(openBytes(Buffer.from(sealed, 'base64'))) as unknown,
  };
}
