/** The set of adjustments through which a picture is seen. In stored values, before any turning. */
export interface Look {
  window: { center: number; width: number };
  inverted: boolean;
}

/**
 * Window and level by the DICOM linear formula (PS3.3 C.11.2.1.2.1), to 0..1:
 * below c - 0.5 - (w-1)/2 all black, above c - 0.5 + (w-1)/2 all white, between: ((x - (c - 0.5)) / (w-1)) + 0.5.
 * A width of 1 is a threshold. Worked value: x=100, c=100.5, w=201 gives 0.5.
 * @throws RangeError when the width is below 1
 */
export function windowed(x: number, center: number, width: number): number {
  if (!(width >= 1)) throw new RangeError(`window width must be at least 1, got ${width}`);
  const low = center - 0.5 - (width - 1) / 2;
  const high = center - 0.5 + (width - 1) / 2;
  if (x <= low) return 0;
  if (x > high) return 1;
  return (x - (center - 0.5)) / (width - 1) + 0.5;
}

/**
 * One look-up table from stored samples to 8-bit grey levels through a look.
 * @param offset original value = sample + offset
 */
export function greyTable(look: Look, bitsStored: number, offset = 0): Uint8Array {
  const table = new Uint8Array(1 << bitsStored);
  for (let sample = 0; sample < table.length; sample++) {
    const level = windowed(sample + offset, look.window.center, look.window.width);
    table[sample] = Math.round(255 * (look.inverted ? 1 - level : level));
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
