import type { PhotoRow } from '../db/photos.ts';
import type { Proxy } from '../imaging/workingPhoto.ts';
import type { DataPaths } from '../storage/dataPaths.ts';

/** The proxy that was made of a photo when it came in. */
export function proxyOf({ id, proxyWidth, proxyHeight }: PhotoRow, paths: DataPaths): Proxy {
  return { path: paths.preview(id, 'proxy'), width: proxyWidth, height: proxyHeight };
}
