/** The primaries of sRGB (IEC 61966-2-1) and its white, seen under D50 as profiles want it: X, Y and Z. */
const colours = {
  wtpt: [0.9642, 1, 0.8249],
  rXYZ: [0.4360747, 0.2225045, 0.0139322],
  gXYZ: [0.3850649, 0.7168786, 0.0971045],
  bXYZ: [0.1430804, 0.0606169, 0.7141733]
} as const;
const curveSteps = 256;
const name = 'sRGB';

/** Linear light of a value from 0 to 1 (IEC 61966-2-1, 5.2). */
const linear = (value: number): number =>
  value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4;

let made: Uint8Array | null = null;

/** An ICC profile (ICC.1:2001-04) that says that a picture's colours are sRGB's, made by its formula. */
export function srgbProfile(): Uint8Array {
  made ??= profile();
  return made;
}

function profile(): Uint8Array {
  const curve = tag('curv', 4 + 2 * curveSteps, (view) => {
    view.setUint32(8, curveSteps);
    for (let i = 0; i < curveSteps; i++)
      view.setUint16(12 + 2 * i, Math.round(65535 * linear(i / (curveSteps - 1))));
  });
  const said = tag('desc', 4 + name.length + 1 + 78, (view, write) => {
    view.setUint32(8, name.length + 1);
    write(12, name);
  });
  const free = 'Free to use';
  const tags: [string, Uint8Array][] = [
    ['desc', said],
    ['cprt', tag('text', free.length + 1, (_, write) => write(8, free))],
    ...Object.entries(colours).map(([signature, xyz]): [string, Uint8Array] => [
      signature,
      tag('XYZ ', 12, (view) => xyz.forEach((value, i) => view.setInt32(8 + 4 * i, fixed(value))))
    ]),
    ['rTRC', curve],
    ['gTRC', curve],
    ['bTRC', curve]
  ];
  return assembled(tags);
}

/** Header, table of tags, tags; one that stands several times is written once. */
function assembled(tags: readonly [string, Uint8Array][]): Uint8Array {
  const places = new Map<Uint8Array, number>();
  let end = 132 + 12 * tags.length;
  for (const [, bytes] of tags) {
    if (places.has(bytes)) continue;
    places.set(bytes, end);
    end += bytes.length;
  }
  const out = new Uint8Array(end);
  const view = new DataView(out.buffer);
  const write = writer(out);
  view.setUint32(0, end);
  view.setUint32(8, 0x02100000);
  write(12, 'mntrRGB XYZ ');
  // The day the standard was published.
  [2001, 4, 1].forEach((part, i) => view.setUint16(24 + 2 * i, part));
  write(36, 'acsp');
  colours.wtpt.forEach((value, i) => view.setInt32(68 + 4 * i, fixed(value)));
  view.setUint32(128, tags.length);
  tags.forEach(([signature, bytes], i) => {
    write(132 + 12 * i, signature);
    view.setUint32(136 + 12 * i, places.get(bytes)!);
    view.setUint32(140 + 12 * i, bytes.length);
  });
  for (const [bytes, at] of places) out.set(bytes, at);
  return out;
}

/** A tag's bytes: its type, four zeros, what it holds; a multiple of four long. */
function tag(
  type: string,
  length: number,
  fill: (view: DataView, write: (at: number, text: string) => void) => void
): Uint8Array {
  const bytes = new Uint8Array(4 * Math.ceil((8 + length) / 4));
  const write = writer(bytes);
  write(0, type);
  fill(new DataView(bytes.buffer), write);
  return bytes;
}

const writer = (bytes: Uint8Array) => (at: number, text: string) =>
  bytes.set(new TextEncoder().encode(text), at);

/** A number with sixteen bits behind the point. */
const fixed = (value: number): number => Math.round(value * 65536);
