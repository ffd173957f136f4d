const app0 = 0xe0;
const app14 = 0xee;
const startOfScan = 0xda;

/** APP14 as decoders know it: version 100, no flags, and whether the three channels are transformed. */
const mark = (transformed: boolean) =>
  Uint8Array.of(0xff, app14, 0, 14, 0x41, 0x64, 0x6f, 0x62, 0x65, 0, 100, 0, 0, 0, 0, transformed ? 1 : 0);

/**
 * A JPEG whose own marks say what the object around it says of its colours. DICOM goes by the photometric
 * interpretation (PS3.5 8.2.1), decoders of files by the marks inside: those that say otherwise are taken out.
 */
export function withColourMark(jpeg: Uint8Array, rgb: boolean): Uint8Array {
  const parts: Uint8Array[] = [jpeg.subarray(0, 2), mark(!rgb)];
  let at = 2;
  while (at + 4 <= jpeg.length && jpeg[at] === 0xff && jpeg[at + 1] !== startOfScan) {
    const length = 2 + ((jpeg[at + 2] << 8) | jpeg[at + 3]);
    const marker = jpeg[at + 1];
    if (marker !== app0 && marker !== app14) parts.push(jpeg.subarray(at, at + length));
    at += length;
  }
  parts.push(jpeg.subarray(at));
  return Buffer.concat(parts);
}
