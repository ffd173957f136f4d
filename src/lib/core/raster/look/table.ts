import { gammaFunction, tableFunction, windowFunction } from '../filters/tables';
import { type Look, type LookStep, activeSteps } from './look';

const pointwise = new Set<LookStep['kind']>(['window', 'table', 'gamma', 'invert']);

/** Whether every step looks at one sample alone, so that a table holds the whole look. */
export const isPointwise = (look: Look): boolean =>
  activeSteps(look).every((step) => pointwise.has(step.kind));

/** A look without the steps that look at neighbours. */
export const pointwiseOf = (look: Look): Look => ({
  steps: activeSteps(look).filter((step) => pointwise.has(step.kind))
});

function functionOf(step: LookStep): (value: number) => number {
  switch (step.kind) {
    case 'window':
      return windowFunction(step.by, step.center, step.width);
    case 'table':
      return tableFunction(step.first, step.entries, step.top);
    case 'gamma':
      return gammaFunction(step.gamma);
    case 'invert':
      return (value) => 1 - value;
    default:
      throw new RangeError(`a table can't hold the step ${step.kind}`);
  }
}

/**
 * One look-up table from stored samples to 8-bit grey levels through a look.
 * @param offset original value = sample + offset
 * @throws RangeError for a look with a step that looks at neighbours: a look is never shown half
 */
export function greyTable(look: Look, bitsStored: number, offset = 0): Uint8Array {
  const functions = activeSteps(look).map(functionOf);
  const table = new Uint8Array(1 << bitsStored);
  for (let sample = 0; sample < table.length; sample++) {
    let value = sample + offset;
    for (const each of functions) value = each(value);
    table[sample] = Math.round(255 * Math.min(1, Math.max(0, value)));
  }
  return table;
}

/** The same table as opaque screen pixels, each 0xAABBGGRR as canvases of little-endian machines hold them. */
export function pixelTable(greys: Uint8Array): Uint32Array {
  const table = new Uint32Array(greys.length);
  for (let i = 0; i < greys.length; i++) {
    const grey = greys[i];
    table[i] = (0xff000000 | (grey << 16) | (grey << 8) | grey) >>> 0;
  }
  return table;
}
