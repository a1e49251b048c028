import type { PhotoView } from '#core/contract/http';

/** Where a picture of a photo is: under its version, since one that was read again looks otherwise. */
export function photoAddress(
  { id, version }: Pick<PhotoView, 'id' | 'version'>,
  kind: 'proxy' | 'tile',
): string {
  return `/api/photos/${id}/${kind}?v=${version}`;
}
