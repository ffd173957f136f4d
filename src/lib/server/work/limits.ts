const leastMs = 3_000;
/** Measured for JPEG 2000, the slowest: a quarter of a second for a million samples of two bytes; four times that. */
const msPerMillionSampleBytes = 500;
/** What is compressed to nearly nothing is soon unpacked, or lies about its size. */
const msPerMillionFileBytes = 2_000;
const emptyShare = 0.1;

/**
 * Processor time in ms that opening a file may take, by its bytes and by those of the samples that it announces. Of what
 * it announces only so much counts as bytes of the file bear out.
 */
export function processorMsAllowed(fileBytes: number, sampleBytes: number): number {
  const announced = (sampleBytes / 1e6) * msPerMillionSampleBytes;
  const borneOut = emptyShare * announced + (fileBytes / 1e6) * msPerMillionFileBytes;
  return leastMs + Math.max((fileBytes / 1e6) * 100, Math.min(announced, borneOut));
}
