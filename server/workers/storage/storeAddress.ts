import { failure, success, type Result } from '#core/result';
import { isLoopback } from '../redisAddress.ts';

/** Where the objects of passes lie, in a store that speaks S3. */
export interface StoreAddress {
  readonly bucket: string;
  /** Before all keys; '' or with `/` at its end. */
  readonly prefix: string;
  /** Undefined: the one that the region says. */
  readonly endpoint: string | undefined;
  readonly region: string;
}

const BUCKET = /^[a-z0-9][a-z0-9.-]{1,61}[a-z0-9]$/;
const REGION = 'us-east-1';

/**
 * @param address `s3://bucket` or `s3://bucket/prefix`
 * @param env for the endpoint and region, as all programs have them
 */
export function storeAt(address: string, env: NodeJS.ProcessEnv): Result<StoreAddress> {
  const [, bucket = '', below = ''] = /^s3:\/\/([^/]+)\/?(.*)$/.exec(address) ?? [];
  if (!BUCKET.test(bucket) || below.split('/').includes('..')) {
    return failure(`Expected a store as s3://bucket or s3://bucket/prefix, found "${address}".`);
  }
  const endpoint = env.AWS_ENDPOINT_URL_S3 ?? env.AWS_ENDPOINT_URL;
  if (endpoint !== undefined) {
    const found = URL.canParse(endpoint) ? new URL(endpoint) : null;
    if (!found || !['http:', 'https:'].includes(found.protocol)) {
      return failure(`Expected AWS_ENDPOINT_URL to be an https:// address, found "${endpoint}".`);
    }
    if (found.protocol === 'http:' && !isLoopback(found.hostname)) {
      return failure(
        `${found.host} is another machine, and http:// would send photos to it in the open. Use https://.`,
      );
    }
  }
  const prefix = below.replace(/\/+$/, '');
  return success({
    ...{ bucket, endpoint, prefix: prefix === '' ? '' : `${prefix}/` },
    region: env.AWS_REGION ?? env.AWS_DEFAULT_REGION ?? REGION,
  });
}

/** As server and worker say to each other which one they mean. */
export function storeName({ bucket, prefix }: StoreAddress): string {
  return `s3://${bucket}/${prefix}`;
}

/** Loaded only where a store is named. */
export async function openObjects(address: StoreAddress) {
  const { Objects } = await import('./objects.ts');
  return new Objects(address);
}
