import { describe, expect, it } from 'vitest';
import { RunPace } from './runPace.ts';

const SECOND = 1_000;
const HOUR = 3_600 * SECOND;

describe('the time left', () => {
  it('is not known before the first output', () => {
    expect(new RunPace(0).remainingMs(10)).toBe(null);
  });

  it('goes by the last outputs', () => {
    const pace = new RunPace(0);
    for (let done = 1; done <= 10; done++) pace.step(done * SECOND);
    expect(pace.remainingMs(30)).toBe(30 * SECOND);
    // Slower now: what is remembered moves on.
    for (let done = 1; done <= 60; done++) pace.step(10 * SECOND + done * 3 * SECOND);
    expect(pace.remainingMs(10)).toBe(30 * SECOND);
  });

  it('does not count pauses, nor an output that ends in one', () => {
    const pace = new RunPace(0);
    for (let done = 1; done <= 4; done++) pace.step(done * SECOND);
    pace.pause(4 * SECOND);
    // What was in work when it was paused.
    pace.step(5 * SECOND);
    pace.resume(4 * SECOND + HOUR);
    pace.step(5 * SECOND + HOUR);
    pace.step(6 * SECOND + HOUR);
    expect(pace.remainingMs(10)).toBeLessThan(11 * SECOND);
    expect(pace.remainingMs(10)).toBeGreaterThan(7 * SECOND);
  });

  it('takes a second pause for the one that is on, and a second going on for none', () => {
    const pace = new RunPace(0);
    pace.step(SECOND);
    pace.pause(SECOND);
    pace.pause(2 * SECOND);
    pace.resume(HOUR);
    pace.resume(2 * HOUR);
    pace.step(HOUR + SECOND);
    expect(pace.remainingMs(1)).toBe(SECOND);
  });
});
