import { DEFAULT_LIFT, type LiftSettings } from '../contract/lift.ts';
import { liftedInk, preparedSheet } from './lift.ts';
import { type SheetPhoto } from './sheetPaper.ts';

/** Room left round the ink, as a share of the sheet's longer side. */
const ROOM = 0.035;

export function defaultLift({ found }: SheetPhoto): LiftSettings {
  return { ...DEFAULT_LIFT, corners: found?.corners ? [...found.corners] : null };
}

/**
 * Settings to begin with: the sheet straightened by its corners where they are plain, and cropped
 * round the ink. What it suggests is shown with handles, so nothing is decided behind one's back.
 */
export function suggestedLift(
  photo: SheetPhoto,
  settings: LiftSettings = defaultLift(photo),
): LiftSettings {
  const whole = { ...settings, crop: null, strokes: [] };
  const sheet = preparedSheet(photo, whole);
  const ink = liftedInk(sheet, whole);
  if (!ink.ok) return whole;
  const { width, height } = sheet.view.sheet;
  const room = ROOM * Math.max(width, height);
  const { inkBox } = ink.value;
  const left = Math.max(0, inkBox.x - room) / width;
  const top = Math.max(0, inkBox.y - room) / height;
  return {
    ...settings,
    crop: {
      x: left,
      y: top,
      width: Math.min(1, (inkBox.x + inkBox.width + room) / width) - left,
      height: Math.min(1, (inkBox.y + inkBox.height + room) / height) - top,
    },
  };
}
