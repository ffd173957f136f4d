/** Full-range YBR to RGB, by pixel (PS3.3 C.7.6.3.1.2). */
export function fromYbr(ybr: Uint8Array): Uint8Array {
  const out = new Uint8ClampedArray(ybr.length);
  for (let i = 0; i < ybr.length; i += 3) {
    const [y, b, r] = [ybr[i], ybr[i + 1] - 128, ybr[i + 2] - 128];
    out[i] = y + 1.402 * r;
    out[i + 1] = y - 0.344136 * b - 0.714136 * r;
    out[i + 2] = y + 1.772 * b;
  }
  return new Uint8Array(out.buffer);
}

/** Native 4:2:2: two brightnesses, then the two colour differences that both pixels share. Rows of odd width are padded. */
export function spread422(bytes: Uint8Array, width: number, height: number): Uint8Array {
  const out = new Uint8Array(width * height * 3);
  const row = 2 * (width + (width % 2));
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const at = y * row + 4 * (x >> 1);
      const to = 3 * (y * width + x);
      out[to] = bytes[at + (x & 1)];
      out[to + 1] = bytes[at + 2];
      out[to + 2] = bytes[at + 3];
    }
  return out;
}

/** Planes, one a channel, made into colour by pixel. @param size bytes of a sample */
export function fromPlanes(planes: Uint8Array, channels: number, size = 1): Uint8Array {
  const count = planes.length / (channels * size);
  const out = new Uint8Array(planes.length);
  for (let c = 0; c < channels; c++)
    for (let i = 0; i < count; i++)
      for (let b = 0; b < size; b++) out[(i * channels + c) * size + b] = planes[(c * count + i) * size + b];
  return out;
}
