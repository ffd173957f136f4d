import { expect, it } from 'vitest';
import { readDamaged } from './hostile.test-data';

it('2,000 damaged files are read or refused as none, and what is read of them is within its limits', () => {
  const { read, wrong } = readDamaged(2_000, 2026);
  expect(wrong).toEqual([]);
  // Enough came through for the test to mean something.
  expect(read).toBeGreaterThan(500);
});
