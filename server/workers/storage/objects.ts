import { createReadStream, createWriteStream } from 'node:fs';
import { rm, stat, utimes } from 'node:fs/promises';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import {
  AbortMultipartUploadCommand,
  DeleteObjectCommand,
  GetObjectCommand,
  HeadObjectCommand,
  ListMultipartUploadsCommand,
  S3Client,
  paginateListObjectsV2,
  type ListMultipartUploadsCommandInput,
  type ListMultipartUploadsCommandOutput,
} from '@aws-sdk/client-s3';
import { Upload } from '@aws-sdk/lib-storage';
import type { StoreAddress } from './storeAddress.ts';

/** From this size on a file goes up in parts, which come to be an object when the last is there. */
const PART_BYTES = 8 * 1024 * 1024;
/** Parts of one file on their way at once: that many are held in memory. */
const PARTS_AT_ONCE = 2;
const CONNECT_MS = 5_000;
/** Without a byte for so long, what is asked for is asked for again. */
const SILENT_MS = 30_000;
const TRIES = 3;

/**
 * The objects below the prefix of a store, as files with their dates. An object is there whole or not at
 * all.
 */
export class Objects {
  private readonly client: S3Client;

  constructor(private readonly address: StoreAddress) {
    const { endpoint, region } = address;
    this.client = new S3Client({
      region,
      ...(endpoint === undefined ? {} : { endpoint, forcePathStyle: true }),
      maxAttempts: TRIES,
      requestHandler: { connectionTimeout: CONNECT_MS, socketTimeout: SILENT_MS },
      // Not every store knows those that are newer than S3 itself.
      requestChecksumCalculation: 'WHEN_REQUIRED',
      responseChecksumValidation: 'WHEN_REQUIRED',
    });
  }

  async put(key: string, path: string, signal?: AbortSignal): Promise<void> {
    const { mtimeMs } = await stat(path);
    const Metadata = { modified: `${Math.round(mtimeMs)}` };
    const body = createReadStream(path);
    try {
      const upload = new Upload({
        client: this.client,
        params: { ...this.at(key), Body: body, Metadata },
        ...{ partSize: PART_BYTES, queueSize: PARTS_AT_ONCE, leavePartsOnError: false },
      });
      const abort = (): void => void upload.abort().catch(() => undefined);
      signal?.throwIfAborted();
      signal?.addEventListener('abort', abort);
      await upload.done().finally(() => signal?.removeEventListener('abort', abort));
    } finally {
      body.destroy();
    }
  }

  /** @returns its bytes; null: it is not there */
  async size(key: string): Promise<number | null> {
    try {
      const { ContentLength } = await this.client.send(new HeadObjectCommand(this.at(key)));
      return ContentLength ?? null;
    } catch (error) {
      if (isMissing(error)) return null;
      throw error;
    }
  }

  /**
   * Writes an object to a file of the caller's own, flushed.
   *
   * @returns its bytes; null: it is not there, and no file is either
   */
  async get(key: string, path: string): Promise<number | null> {
    const file = createWriteStream(path, { flush: true });
    try {
      const found = await this.client.send(new GetObjectCommand(this.at(key)));
      await pipeline(found.Body as Readable, file);
      if (file.bytesWritten !== found.ContentLength) throw new Error(`${key} was cut off.`);
      const modified = Number(found.Metadata?.modified);
      if (Number.isFinite(modified)) await utimes(path, new Date(), new Date(modified));
      return file.bytesWritten;
    } catch (error) {
      file.destroy();
      await rm(path, { force: true });
      if (isMissing(error)) return null;
      throw error;
    }
  }

  /** Nothing happens where it is not there. */
  async remove(key: string): Promise<void> {
    await this.client.send(new DeleteObjectCommand(this.at(key)));
  }

  /** Removes all whose keys begin so, and gives up what is on its way there. */
  async removeBelow(start: string): Promise<void> {
    const { bucket: Bucket, prefix } = this.address;
    const below = { Bucket, Prefix: `${prefix}${start}` };
    for await (const { Contents = [] } of paginateListObjectsV2({ client: this.client }, below)) {
      for (const { Key } of Contents) {
        await this.client.send(new DeleteObjectCommand({ Bucket, Key }));
      }
    }
    await this.giveUpBelow(below);
  }

  /** Parts that a worker put there before it was killed: no listing of objects shows them, and they cost. */
  private async giveUpBelow(below: { readonly Bucket: string; readonly Prefix: string }) {
    let from: Pick<ListMultipartUploadsCommandInput, 'KeyMarker' | 'UploadIdMarker'> | null = {};
    while (from) {
      const found: Partial<ListMultipartUploadsCommandOutput> = await this.client
        .send(new ListMultipartUploadsCommand({ ...below, ...from }))
        .catch(noneWhereUnknown);
      for (const { Key, UploadId } of found.Uploads ?? []) {
        const upload = { Bucket: below.Bucket, Key, UploadId };
        await this.client.send(new AbortMultipartUploadCommand(upload)).catch(unlessMissing);
      }
      const { IsTruncated, NextKeyMarker: KeyMarker, NextUploadIdMarker: UploadIdMarker } = found;
      // Without a marker it would begin from the start, for ever.
      from = IsTruncated && KeyMarker !== undefined ? { KeyMarker, UploadIdMarker } : null;
    }
  }

  close(): void {
    this.client.destroy();
  }

  private at(key: string) {
    return { Bucket: this.address.bucket, Key: `${this.address.prefix}${key}` };
  }
}

/** Some stores do not list what is on its way; they give it up by a rule of the bucket. */
function noneWhereUnknown(error: unknown): Partial<ListMultipartUploadsCommandOutput> {
  if ((error as Error).name === 'NotImplemented') return {};
  throw error;
}

/** Its worker may have ended it meanwhile. */
function unlessMissing(error: unknown): void {
  if (!isMissing(error)) throw error;
}

function isMissing(error: unknown): boolean {
  const { name, $metadata } = error as { name?: string; $metadata?: { httpStatusCode?: number } };
  return name === 'NoSuchKey' || name === 'NotFound' || $metadata?.httpStatusCode === 404;
}
