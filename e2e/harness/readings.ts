import { expect } from 'vitest';
import type { Browser } from './browser';

export const stage = '[data-testid=stage]';

/** What the Measure station lists of a picture, as somebody reads it. */
export class Readings {
  constructor(private readonly browser: () => Browser) {}

  rows(kind: string): Promise<string[]> {
    return this.browser().run(
      `return [...document.querySelectorAll('[data-testid=reading-row][data-kind="' + arguments[0] + '"]')].map((row) => row.innerText)`,
      kind
    );
  }
  untilRows(kind: string, count: number): Promise<void> {
    return this.browser().until(`${count} of ${kind}`, async () => (await this.rows(kind)).length === count);
  }
  /** The first figure of a reading, and its ±. */
  async value(kind: string, of = 0): Promise<[value: number, plusMinus: number]> {
    const [, number, plusMinus] = /(-?[\d.]+) ± ([\d.]+)/.exec((await this.rows(kind))[of])!;
    return [Number(number), Number(plusMinus)];
  }
  async expectValue(kind: string, truth: number, of = 0): Promise<void> {
    const [found, plusMinus] = await this.value(kind, of);
    expect(Math.abs(found - truth), `${kind}: ${found} ± ${plusMinus}, truth ${truth}`).toBeLessThan(
      Math.max(plusMinus, 0.01 * truth)
    );
  }
}
