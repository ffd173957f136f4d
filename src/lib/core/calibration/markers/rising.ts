/** Limited to 0 and 1. */
export const clamped = (value: number): number => Math.min(1, Math.max(0, value));

/** 0 up to one value, 1 from another on, straight between; falling when the second is the lower. */
export const rising = (value: number, from: number, to: number): number =>
  clamped((value - from) / (to - from));
