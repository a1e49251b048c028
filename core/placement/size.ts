import type { SizeRule } from '../contract/preset.ts';
import { rotatedSize, scaled, type Size } from './geometry.ts';

const PERCENT = 100;

/**
 * Size of the unrotated mark, before it is made to fit (contract, section 1).
 *
 * @param aspect width / height of the ink box, above 0
 * @param rotationDeg needed by `contain` and `cover`, which measure the rotated box
 */
export function wantedSize(frame: Size, aspect: number, rule: SizeRule, rotationDeg: number): Size {
  const share = rule.value / PERCENT;
  switch (rule.basis) {
    case 'width':
      return byWidth(frame.width * share, aspect);
    case 'height':
      return byHeight(frame.height * share, aspect);
    case 'long-side':
      return byLongerSide(Math.max(frame.width, frame.height) * share, aspect);
    case 'short-side':
      return byLongerSide(Math.min(frame.width, frame.height) * share, aspect);
    case 'area':
      return byWidth(Math.sqrt(frame.width * frame.height * share * aspect), aspect);
    case 'pixels':
      return byWidth(rule.value, aspect);
    case 'contain':
    case 'cover': {
      const unit = { width: aspect, height: 1 };
      const box = rotatedSize(unit, rotationDeg);
      const factors = [
        (frame.width * share) / box.width,
        (frame.height * share) / box.height,
      ] as const;
      return scaled(unit, rule.basis === 'contain' ? Math.min(...factors) : Math.max(...factors));
    }
    default:
      throw new Error(`Unknown size basis ${rule.basis satisfies never}`);
  }
}

function byWidth(width: number, aspect: number): Size {
  return { width, height: width / aspect };
}

function byHeight(height: number, aspect: number): Size {
  return { width: height * aspect, height };
}

/** The longer side of the mark itself, whichever that is, gets `length`. */
function byLongerSide(length: number, aspect: number): Size {
  return aspect >= 1 ? byWidth(length, aspect) : byHeight(length, aspect);
}
