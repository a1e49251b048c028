import { unitsOf, type FinishOf } from '../contract/finish.ts';
import { matrixOf } from '../path/matrix.ts';
import { pathText, transformedPath, type Path } from '../path/path.ts';
import { grownBox } from '../path/pathBox.ts';
import { centreOf, type Box } from '../placement/geometry.ts';
import { boxPath } from './silhouette.ts';
import { cloudPicture, softReach } from './soft/softPictures.ts';

/** A surface behind a mark that keeps a busy photo away from it. */

/** Corner of a rounded plate, as a share of its shorter side. */
const ROUNDED_SHARE = 0.18;
/** A cloud fades over this share of the shorter side of its box, as a standard deviation. */
const CLOUD_SHARE = 0.1;

/** What the plate counts for in the ink box: a cloud's soft rim lies outside of it. */
export function plateBox({ padding }: FinishOf<'plate'>, ink: Box): Box {
  return grownBox(ink, unitsOf(padding));
}

/** All of it, the soft rim of a cloud, too. */
export function plateReach(plate: FinishOf<'plate'>, ink: Box): Box {
  const box = plateBox(plate, ink);
  return plate.shape === 'cloud' ? grownBox(box, softReach(cloudSigma(box))) : box;
}

/** @param ink what the plate lies round, units */
export function drawPlate(plate: FinishOf<'plate'>, ink: Box, colour: string): string {
  const box = plateBox(plate, ink);
  if (plate.shape !== 'cloud') {
    const d = pathText(placed(box, cornerOf(plate, box)));
    return `<path fill="${colour}" fill-opacity="${plate.strength}" d="${d}"/>`;
  }
  const path = placed(box, Math.min(box.width, box.height) / 2);
  const { box: room, href } = cloudPicture(path, box, cloudSigma(box), plate.strength, colour);
  const { x, y, width, height } = room;
  return `<image x="${x}" y="${y}" width="${width}" height="${height}" preserveAspectRatio="none" href="${href}"/>`;
}

function cloudSigma({ width, height }: Box): number {
  return Math.min(width, height) * CLOUD_SHARE;
}

function cornerOf({ shape }: FinishOf<'plate'>, { width, height }: Box): number {
  const shorter = Math.min(width, height);
  if (shape === 'box') return 0;
  return shape === 'pill' ? shorter / 2 : shorter * ROUNDED_SHARE;
}

function placed(box: Box, corner: number): Path {
  const { x, y } = centreOf(box);
  return transformedPath(boxPath(box.width, box.height, corner), matrixOf(x, y, 0, 1, 1));
}
