import { describe, expect, it } from 'vitest';
import type { RasterSpec } from '../compose/rasterPlan.ts';
import { rescueBleed, rescueCoverage } from './rescueShape.ts';

const SIZE = { width: 200, height: 50 };

function specFor(kind: 'halo' | 'plate', rotation = 0): RasterSpec {
  const bleed = rescueBleed(kind, SIZE, { x: 0, y: 0 });
  const width = Math.ceil(SIZE.width * (1 + 2 * bleed.x)) + 2;
  const height = Math.ceil(SIZE.height * (1 + 2 * bleed.y)) + 2;
  const side = rotation === 0 ? { width, height } : { width, height: width };
  return {
    ...side,
    centreX: side.width / 2,
    centreY: side.height / 2,
    markWidth: SIZE.width,
    markHeight: SIZE.height,
    rotation,
  };
}

/** A stroke three pixels high through the middle of the ink box. */
function stroke({ width, height }: RasterSpec) {
  const data = new Uint8Array(width * height);
  const middle = Math.floor(height / 2);
  for (let y = middle - 1; y <= middle + 1; y++) {
    data.fill(255, y * width + (width - 200) / 2, y * width + (width + 200) / 2);
  }
  return { data, width, height };
}

const at = (data: Uint8Array, width: number, x: number, y: number): number =>
  data[Math.round(y) * width + Math.round(x)];

describe('rescueCoverage', () => {
  it('lays a halo that is whole over the ground that is looked at, and gone at the edge', () => {
    const spec = specFor('halo');
    const { data, width } = rescueCoverage('halo', stroke(spec), spec);
    const middle = Math.floor(spec.height / 2);
    // 4 % of 200 px from the stroke's edge.
    expect(at(data, width, width / 2, middle - 8)).toBeGreaterThan(200);
    expect(at(data, width, width / 2, 0)).toBeLessThan(4);
    expect(at(data, width, 0, middle)).toBeLessThan(8);
  });

  it('lays a plate round the whole ink box, with round corners, turned with the mark', () => {
    const spec = specFor('plate');
    const { data, width } = rescueCoverage('plate', stroke(spec), spec);
    expect(at(data, width, spec.centreX - 105, spec.centreY)).toBe(255);
    expect(at(data, width, spec.centreX - 110.4, spec.centreY - 35.4)).toBe(0);
    expect(at(data, width, spec.centreX - 99, spec.centreY - 24)).toBe(255);
    const upright = specFor('plate', 90);
    const turned = rescueCoverage('plate', stroke(upright), upright);
    expect(at(turned.data, turned.width, upright.centreX, upright.centreY - 105)).toBe(255);
    expect(at(turned.data, turned.width, upright.centreX - 60, upright.centreY)).toBe(0);
  });

  it('needs at least the room of the mark itself', () => {
    expect(rescueBleed('plate', SIZE, { x: 0.9, y: 0.01 })).toEqual({ x: 0.9, y: 11 / 50 });
  });

  it('lays the same halo round a large mark, from fewer pixels', () => {
    const small = specFor('halo');
    const times = 8;
    const large = {
      ...small,
      width: small.width * times,
      height: small.height * times,
      centreX: small.centreX * times,
      centreY: small.centreY * times,
      markWidth: SIZE.width * times,
      markHeight: SIZE.height * times,
    };
    const core = stroke(small);
    const data = new Uint8Array(large.width * large.height).map((_, index) => {
      const x = Math.floor((index % large.width) / times);
      return core.data[Math.floor(index / large.width / times) * small.width + x];
    });
    const one = rescueCoverage('halo', core, small);
    const other = rescueCoverage('halo', { ...large, data }, large);
    expect(other.data).toHaveLength(large.width * large.height);
    for (let y = 0; y < small.height; y += 3) {
      for (let x = 0; x < small.width; x += 5) {
        const found = at(other.data, large.width, (x + 0.5) * times, (y + 0.5) * times);
        expect(Math.abs(found - at(one.data, small.width, x, y))).toBeLessThan(22);
      }
    }
  });
});
