import { expect, it } from 'vitest';
import { storeAt, storeName } from './storeAddress.ts';

const at = (address: string, env: NodeJS.ProcessEnv = {}) => {
  const found = storeAt(address, env);
  return found.ok ? found.value : found.reason;
};

it('is a bucket, with or without a prefix, in a region or behind an endpoint', () => {
  const region = 'us-east-1';
  expect(at('s3://studio')).toEqual({ bucket: 'studio', prefix: '', endpoint: undefined, region });
  const endpoint = 'https://store.example:9000';
  expect(at('s3://studio/a/b/', { AWS_ENDPOINT_URL: endpoint, AWS_REGION: 'eu-west-1' })).toEqual({
    ...{ bucket: 'studio', prefix: 'a/b/', region: 'eu-west-1', endpoint },
  });
  const found = storeAt('s3://studio/a', {});
  expect(found.ok && storeName(found.value)).toBe('s3://studio/a/');
});

it.each(['', 'studio', 's3://', 's3://Studio', 's3://studio/../other', 'https://studio'])(
  'is not "%s"',
  (address) => expect(at(address)).toContain('Expected a store as s3://bucket'),
);

it('is not reached in the open, but on this machine', () => {
  const open = (AWS_ENDPOINT_URL: string) => at('s3://studio', { AWS_ENDPOINT_URL });
  expect(open('http://10.0.0.4:9000')).toContain('in the open');
  expect(open('http://127.0.0.1:9000')).toMatchObject({ bucket: 'studio' });
  expect(open('ftp://store')).toContain('Expected AWS_ENDPOINT_URL');
});
