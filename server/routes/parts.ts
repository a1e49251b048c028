import type { Request } from 'express';
import { idParams } from '#core/contract/http';
import { validated } from '../http/validated.ts';
import type { House } from '../house.ts';

/** What every group of routes is given. */
export type RouteParts = House;

export function idOf(request: Request): number {
  return validated(idParams, { id: request.params.id }).id;
}

/** Previews never change under their address, so a browser may keep them for good. */
export const KEEP_FOREVER = 'private, max-age=31536000, immutable';
