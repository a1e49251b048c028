import sharp from 'sharp';
import { syntheticScan, type ScanKind, type SyntheticScan } from './syntheticScan.ts';

/**
 * Photos of a signed sheet with hard shadows across it, as a hand or a phone throws them: the light on
 * the sheet falls to a share of itself within a few pixels, while ink runs through on both sides.
 */

export interface ShadowScan {
  /** Over how many px the shadow's edge falls. */
  readonly edgePx: number;
  /** What is left of the light in the shadow, 0 to 1. */
  readonly left: number;
  readonly shadows: 1 | 2;
  /** Whether the sheet lies on a table that is seen all round, or fills the picture. */
  readonly isOnTable: boolean;
  readonly slant?: number;
  readonly blurPx?: number;
  readonly jpegQuality?: number;
}

export const SHADOW_SIZE = { width: 1_300, height: 870 };

/** Warm paper, warm lamp: what a shadow leaves is the bluer light of the room. */
const PAPER = [0.86, 0.82, 0.74] as const;
const SHADE_TINT = [0.985, 1, 1.03] as const;
const TABLE = [0.2, 0.15, 0.1] as const;
const BLACK = [0.03, 0.03, 0.03] as const;
const SHEET = { left: 0.06, right: 0.95, top: 0.07, bottom: 0.97 };

export function shadowKind(scan: ShadowScan): ScanKind {
  const { edgePx, left, shadows, isOnTable, slant = 0.25 } = scan;
  const { width, height } = SHADOW_SIZE;
  /** 1 in full light, `left` in full shadow, for a straight edge through a place. */
  const behind = (x: number, y: number, at: number, lean: number): number => {
    const length = Math.hypot(1, lean);
    const away = ((x - at) * width + (y - 0.5) * height * lean) / length;
    const share = Math.min(1, Math.max(0, away / edgePx + 0.5));
    return 1 - (1 - left) * share * share * (3 - 2 * share);
  };
  const lightAt = (x: number, y: number): number => {
    const falling = 1 - 0.18 * x - 0.1 * y;
    const first = behind(x, y, 0.55, slant);
    return falling * (shadows === 2 ? first * behind(1 - x, y, 0.72, -0.4 * slant) : first);
  };
  const isSheet = (x: number, y: number): boolean =>
    x > SHEET.left && x < SHEET.right - 0.02 * y && y > SHEET.top && y < SHEET.bottom;
  return {
    name: nameOf(scan),
    paper: (x, y) => {
      const light = lightAt(x, y);
      const [r, g, b] = !isOnTable || isSheet(x, y) ? PAPER : wood(x, y);
      const shade = 1 - light;
      return [
        r * light * (1 + (SHADE_TINT[0] - 1) * shade),
        g * light,
        b * light * (1 + (SHADE_TINT[2] - 1) * shade),
      ];
    },
    ink: BLACK,
    grain: 1.5,
    isUneven: true,
    ...(scan.blurPx === undefined ? {} : { blurPx: scan.blurPx }),
    ...(scan.jpegQuality === undefined ? {} : { jpegQuality: scan.jpegQuality }),
  };
}

function wood(x: number, y: number): [number, number, number] {
  const rings =
    1 + 0.18 * Math.sin(y * 95 + 6 * Math.sin(x * 5)) + 0.07 * Math.sin(y * 310 + x * 9);
  return [TABLE[0] * rings, TABLE[1] * rings, TABLE[2] * rings];
}

function nameOf({ edgePx, left, shadows, isOnTable, blurPx, jpegQuality }: ShadowScan): string {
  const spoilt = [blurPx ? 'blurred' : '', jpegQuality ? 'JPEG' : ''].filter(Boolean);
  return [
    `${shadows === 1 ? 'a shadow' : 'two shadows'} to ${left * 100} %`,
    `over ${edgePx} px`,
    isOnTable ? 'on a table' : 'filling the picture',
    ...spoilt,
  ].join(', ');
}

const EDGES = [8, 16, 30, 60, 120, 200];
const LEFT = [0.35, 0.5, 0.65, 0.8];

/** Every edge with every depth, one shadow and two, on a table and not, spoilt in turn. */
export const SHADOW_SCANS: readonly ShadowScan[] = EDGES.flatMap((edgePx, edge) =>
  LEFT.flatMap((left, depth) =>
    ([1, 2] as const).flatMap((shadows) =>
      [false, true].map((isOnTable) => {
        const turn = (edge + depth + shadows + Number(isOnTable)) % 3;
        return {
          ...{ edgePx, left, shadows, isOnTable, slant: [0.25, -0.12, 0][(edge + shadows) % 3] },
          ...(turn === 1 ? { blurPx: 1 } : {}),
          ...(turn === 2 ? { jpegQuality: 88 } : {}),
        };
      }),
    ),
  ),
);

/** A photo of such a sheet as a phone writes it, with what is true of it. */
export async function shadowPhoto(
  scan: ShadowScan,
): Promise<{ jpeg: Buffer; scan: SyntheticScan }> {
  const { width, height } = SHADOW_SIZE;
  const made = syntheticScan(shadowKind(scan), width, height);
  const jpeg = await sharp(made.pixels.data, { raw: { width, height, channels: 3 } })
    .jpeg({ quality: 90 })
    .toBuffer();
  return { jpeg, scan: made };
}
