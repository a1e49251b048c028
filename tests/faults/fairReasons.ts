/** Why an output may be missing for good: what the photographer asked for cannot be, or is gone. */
export const FAIR_REASONS =
  /originals are never replaced|damaged or cut short|is not there|not in an allowed|is full|not there any more|None of its photos/;
