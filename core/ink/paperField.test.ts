import { describe, expect, it } from 'vitest';
import { filledGaps } from './filledGaps.ts';
import { paperField } from './paperField.ts';
import { closed } from './slidingExtreme.ts';

const [WIDTH, HEIGHT] = [300, 200];

type Light = (x: number, y: number) => number;

/** The estimate's worst and mean error, as shares of the true paper. */
function errors(paper: Light, ink: (x: number, y: number) => boolean, depth = 0.04) {
  const data = new Float32Array(WIDTH * HEIGHT * 3);
  for (let y = 0, at = 0; y < HEIGHT; y++) {
    for (let x = 0; x < WIDTH; x++, at += 3) {
      data.fill(paper(x, y) * (ink(x, y) ? depth : 1), at, at + 3);
    }
  }
  const sheet = { data, width: WIDTH, height: HEIGHT };
  const { field } = paperField(sheet, new Uint8Array(WIDTH * HEIGHT));
  let [worst, sum] = [0, 0];
  for (let y = 0, at = 0; y < HEIGHT; y++) {
    for (let x = 0; x < WIDTH; x++, at += 3) {
      const error = Math.abs(field.data[at] / paper(x, y) - 1);
      worst = Math.max(worst, error);
      sum += error;
    }
  }
  return { worst, mean: sum / (WIDTH * HEIGHT) };
}

const gradient: Light = (x, y) => 0.9 - (0.6 * x) / WIDTH - (0.1 * y) / HEIGHT;
const shadow: Light = (x, y) => gradient(x, y) * (1 - 0.5 / (1 + Math.exp(-(x - y - 60) / 9)));
const stroke = (x: number, y: number): boolean => Math.abs(y - 100 - 30 * Math.sin(x / 25)) < 4;
const blot = (x: number, y: number): boolean => Math.hypot(x - 150, y - 100) < 34;

describe('the paper field', () => {
  it('is not pulled down by a wide area of middling ink', () => {
    expect(errors(gradient, blot, 0.3).worst).toBeLessThan(0.08);
  });

  it.each<[string, Light, (x: number, y: number) => boolean, number, number]>([
    ['follows a gradient under strokes', gradient, stroke, 0.03, 0.005],
    ['follows a soft shadow under strokes', shadow, stroke, 0.09, 0.012],
    ['is not pulled down by thick ink', gradient, blot, 0.06, 0.008],
    ['takes empty paper as it is', shadow, () => false, 0.06, 0.006],
  ])('%s', (_, paper, ink, worst, mean) => {
    const found = errors(paper, ink);
    expect(found.worst).toBeLessThan(worst);
    expect(found.mean).toBeLessThan(mean);
  });
});

it('fills gaps of any width smoothly, and leaves what is known', () => {
  const width = 64;
  const plane = new Float32Array(width * width);
  const known = new Float32Array(width * width);
  for (let y = 0, at = 0; y < width; y++) {
    for (let x = 0; x < width; x++, at++) {
      const isKnown = x < 12 || x > 51;
      plane[at] = isKnown ? x : 999;
      known[at] = isKnown ? 1 : 0;
    }
  }
  const filled = filledGaps(plane, known, width);
  for (let x = 0; x < width; x++) {
    const value = filled[32 * width + x];
    if (x < 12 || x > 51) expect(value).toBe(x);
    else expect(value > 3 && value < 60).toBe(true);
  }
  expect(Math.abs(filled[32 * width + 32] - 31.5)).toBeLessThan(8);
});

it('closing fills a dark line narrower than its window and keeps a slope', () => {
  const width = 40;
  const line = Float32Array.from({ length: width * 5 }, (_, at) => {
    const x = at % width;
    return x === 20 || x === 21 ? 0 : x;
  });
  const filled = closed(line, width, 3);
  expect(filled[2 * width + 20]).toBeGreaterThanOrEqual(19);
  expect(filled[2 * width + 10]).toBe(10);
});
