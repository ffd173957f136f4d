import sharp from 'sharp';

/** A picture as it came: 8 bits a sample, colours one after the other. */
export interface Placed {
  width: number;
  height: number;
  channels: 1 | 3;
  samples: Uint8Array;
  /** How wide it was asked to be; null for as large as its place. */
  widthMm: number | null;
}

/** Films that it holds, standing, in mm; what it does not know is as large as the largest. */
const sizes: Readonly<Record<string, [number, number]>> = {
  '8INX10IN': [203.2, 254],
  '10INX12IN': [254, 304.8],
  A4: [210, 297],
  '14INX17IN': [355.6, 431.8]
};
const dotsPerMm = 4;

interface Developing {
  size: string;
  lying: boolean;
  across: number;
  down: number;
  placed: readonly { position: number; placed: Placed | null }[];
}

/** A film as a PNG of 4 dots a millimetre; null where a picture does not fit into its place. */
export async function developed({ size, lying, across, down, placed }: Developing): Promise<Buffer | null> {
  const [short, long] = sizes[size] ?? sizes['14INX17IN'];
  const [width, height] = (lying ? [long, short] : [short, long]).map((mm) => Math.round(mm * dotsPerMm));
  const [cellX, cellY] = [Math.floor(width / across), Math.floor(height / down)];
  const layers = [];
  for (const { position, placed: picture } of placed) {
    if (!picture) continue;
    const fit = Math.min(cellX / picture.width, cellY / picture.height);
    const by = picture.widthMm === null ? fit : (picture.widthMm * dotsPerMm) / picture.width;
    if (by > fit * 1.0001) return null;
    const [wide, high] = [picture.width * by, picture.height * by].map((dots) =>
      Math.max(1, Math.round(dots))
    );
    const input = await sharp(interleaved(picture), {
      raw: { width: picture.width, height: picture.height, channels: picture.channels }
    })
      .resize(wide, high, { fit: 'fill' })
      .png()
      .toBuffer();
    layers.push({
      input,
      left: ((position - 1) % across) * cellX + Math.floor((cellX - wide) / 2),
      top: Math.floor((position - 1) / across) * cellY + Math.floor((cellY - high) / 2)
    });
  }
  return sharp({ create: { width, height, channels: 3, background: '#000' } })
    .composite(layers)
    .withMetadata({ density: dotsPerMm * 25.4 })
    .png()
    .toBuffer();
}

function interleaved({ width, height, channels, samples }: Placed): Uint8Array {
  const dots = width * height;
  if (channels === 1) return samples.subarray(0, dots);
  const out = new Uint8Array(3 * dots);
  for (let i = 0; i < dots; i++) for (let c = 0; c < 3; c++) out[3 * i + c] = samples[c * dots + i];
  return out;
}
