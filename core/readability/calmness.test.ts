import { describe, expect, it } from 'vitest';
import { ANCHORS } from '../contract/preset.ts';
import { CALM_FROM, calmCounts, calmness, isOnBusiest, PLACES } from './calmness.ts';
import { BYTES_PER_LIGHTNESS, type LightMap } from './lightMap.ts';

const FRAME = { width: 640, height: 430 };
const LOW_RIGHT = { x: 480, y: 330, width: 150, height: 90 };

/** @param look of a cell: mean and standard deviation, L* */
function map(look: (x: number, y: number) => readonly [number, number]): LightMap {
  const [width, height] = [64, 43];
  const cells = new Uint8Array(width * height * 2);
  for (let cell = 0; cell < width * height; cell++) {
    const [mean, spread] = look(cell % width, Math.floor(cell / width));
    cells[cell * 2] = mean * BYTES_PER_LIGHTNESS;
    cells[cell * 2 + 1] = spread * BYTES_PER_LIGHTNESS;
  }
  return { width, height, cells };
}

describe('calmness', () => {
  it('is 1 on an even ground, and near it on a slope such as a sky', () => {
    expect(
      calmness(
        map(() => [50, 0]),
        FRAME,
        LOW_RIGHT,
      ),
    ).toBe(1);
    expect(
      calmness(
        map((x) => [30 + x / 2, 1]),
        FRAME,
        LOW_RIGHT,
      ),
    ).toBeGreaterThan(0.8);
  });

  it('falls with texture, with edges and with bright spots', () => {
    const textured = calmness(
      map(() => [50, 14]),
      FRAME,
      LOW_RIGHT,
    );
    const edged = calmness(
      map((x) => [x % 2 === 0 ? 30 : 50, 0]),
      FRAME,
      LOW_RIGHT,
    );
    const spotted = calmness(
      map((x, y) => [(x * 7 + y * 3) % 5 === 0 ? 90 : 20, 0]),
      FRAME,
      LOW_RIGHT,
    );
    for (const found of [textured, edged, spotted]) expect(found).toBeLessThan(CALM_FROM);
    const mild = calmness(
      map(() => [50, 4]),
      FRAME,
      LOW_RIGHT,
    );
    expect(mild).toBeGreaterThan(textured);
  });

  it('looks at the box alone, also where it reaches beyond the frame', () => {
    const halves = map((x) => (x < 32 ? [50, 0] : [50, 20]));
    expect(calmness(halves, FRAME, { x: 10, y: 10, width: 200, height: 100 })).toBe(1);
    expect(calmness(halves, FRAME, { ...LOW_RIGHT, width: 900 })).toBeLessThan(CALM_FROM);
    expect(calmness(halves, FRAME, { x: 5, y: 5, width: 0.1, height: 0.1 })).toBe(1);
  });
});

describe('places of a batch', () => {
  const [calm, restless] = [0.9, 0.1];
  const numbers = new Float32Array(3 * PLACES).fill(calm);
  numbers[PLACES + ANCHORS.indexOf('bottom-right')] = restless;
  numbers.fill(NaN, 2 * PLACES);

  it('are counted by the photos on which they are calm', () => {
    expect(calmCounts(numbers)[ANCHORS.indexOf('top-left')]).toBe(2);
    expect(calmCounts(numbers)[ANCHORS.indexOf('bottom-right')]).toBe(1);
  });

  it('tell a mark that lies where its photo is busiest', () => {
    const low = ANCHORS.indexOf('bottom-right');
    expect(isOnBusiest(numbers, 1, low)).toBe(true);
    expect(isOnBusiest(numbers, 1, 0)).toBe(false);
    // All of it is calm, or nothing is known.
    expect(isOnBusiest(numbers, 0, low)).toBe(false);
    expect(isOnBusiest(numbers, 2, low)).toBe(false);
  });
});
