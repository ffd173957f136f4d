import { type SeededRandom, anyBetween } from '../../random';
import type { Point } from '../../raster/orientation';
import type { Raster } from '../../raster/raster';
import { type Imaging, type ImagingFaults, type Transfer, anyImaging, imaged } from './imaging';
import { neighbourKinds, neighbourOf } from './neighbours';
import { type Shape, ballShape, barShape, boneShape, discShape, draw, together } from './shapes';

export interface MarkerWish {
  transfer: Transfer;
  marker: 'ball' | 'disc' | 'ruler' | 'bar' | 'none';
  width?: number;
  height?: number;
  /** Diameter of a ball or disc, length of a bar, distance of a ruler's lines. */
  sizePx?: number;
  /** Share of the diameter that lies under metal or beyond the border. */
  hidden?: 'under metal' | 'beyond the border';
  /** Two of one kind and size. */
  twice?: boolean;
  /** What metal lies beside it, and whether it may touch. */
  neighbours?: number;
  only?: (typeof neighbourKinds)[number];
  imaging?: Partial<Imaging>;
  faults?: ImagingFaults;
  /** Everything bone and soft left out. */
  bare?: boolean;
}

export interface MarkerPicture {
  raster: Raster;
  imaging: Imaging;
  /** What was drawn: of a ball the shorter diameter, of a disc the longer. */
  marker: { center: Point; sizePx: number; ends?: [Point, Point]; lines?: number } | null;
  neighbours: string[];
}

/** A picture of a part of a body with a marker of known size, drawn flat and imaged by a chain of any make. */
export function markerPicture(wish: MarkerWish, random: SeededRandom): MarkerPicture {
  const width = wish.width ?? 560;
  const height = wish.height ?? 620;
  const imaging = anyImaging(wish.transfer, random, wish.imaging);
  const map = new Float32Array(width * height);
  if (!wish.bare) drawBody(map, width, height, random);
  const taken: { center: Point; reach: number }[] = [];
  const blur = Math.hypot(imaging.focalPx, imaging.detectorPx);
  const least = Math.max(6, 5 * blur);
  const most = Math.min(250, 0.33 * Math.min(width, height));
  const sizePx = wish.sizePx ?? least * (most / least) ** random.uniform();
  const marker = drawMarker(map, width, height, { ...wish, sizePx }, random, taken);
  const neighbours: string[] = [];
  for (let i = 0; i < (wish.neighbours ?? 0); i++) {
    const kind = wish.only ?? neighbourKinds[Math.floor(random.uniform() * neighbourKinds.length)];
    const reach = anyBetween(random, 0.05, 0.16) * Math.min(width, height);
    const center = freePlace(width, height, reach, taken, random);
    if (!center) continue;
    taken.push({ center, reach });
    for (const shape of neighbourOf(kind, center, reach, random)) draw(map, width, height, shape);
    neighbours.push(kind);
  }
  return { raster: imaged(map, width, height, imaging, random, wish.faults), imaging, marker, neighbours };
}

function drawBody(map: Float32Array, width: number, height: number, random: SeededRandom): void {
  const middle = { x: width * anyBetween(random, 0.35, 0.65), y: height * anyBetween(random, 0.35, 0.65) };
  const turn = anyBetween(random, -0.5, 0.5);
  const end = (far: number, at = middle): Point => ({
    x: at.x + far * height * Math.sin(turn),
    y: at.y + far * height * Math.cos(turn)
  });
  const soft = width * anyBetween(random, 0.25, 0.6);
  draw(map, width, height, tissue(end(-0.8), end(0.8), soft, anyBetween(random, 0.4, 2)), true);
  const bones = 1 + Math.floor(3 * random.uniform());
  for (let i = 0; i < bones; i++) {
    const aside = { x: middle.x + anyBetween(random, -0.3, 0.3) * width, y: middle.y };
    const radius = width * anyBetween(random, 0.04, 0.13);
    const from = end(anyBetween(random, -0.7, -0.1), aside);
    const to = end(anyBetween(random, 0.1, 0.7), aside);
    const depth = anyBetween(random, 0.5, 1.8);
    draw(
      map,
      width,
      height,
      boneShape(
        from,
        to,
        radius,
        radius * anyBetween(random, 0.7, 1.2),
        radius * anyBetween(random, 0.1, 0.3),
        depth
      ),
      true
    );
  }
  const step = 24;
  const columns = Math.ceil(width / step) + 1;
  const grain = Float32Array.from({ length: columns * (Math.ceil(height / step) + 1) }, () =>
    random.normal()
  );
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [u, v] = [x / step, y / step];
      const [i, j] = [Math.floor(u), Math.floor(v)];
      const [p, q] = [u - i, v - j];
      const at = j * columns + i;
      const upper = grain[at] + (grain[at + 1] - grain[at]) * p;
      const lower = grain[at + columns] + (grain[at + columns + 1] - grain[at + columns]) * p;
      map[y * width + x] *= 1 + 0.03 * (upper + (lower - upper) * q);
    }
}

/** Flesh: thick in its middle, thin towards its sides. */
function tissue(a: Point, b: Point, radius: number, depth: number): Shape {
  const rod = barShape(a, b, 2 * radius, 1, { roundEnds: true, rod: true });
  return { ...rod, at: (x, y) => depth * rod.at(x, y) };
}

function drawMarker(
  map: Float32Array,
  width: number,
  height: number,
  wish: MarkerWish & { sizePx: number },
  random: SeededRandom,
  taken: { center: Point; reach: number }[]
): MarkerPicture['marker'] {
  const { marker: kind, sizePx } = wish;
  if (kind === 'none') return null;
  if (kind === 'ruler' || kind === 'bar') return drawLong(map, width, height, wish, random, taken);
  const middle = kind === 'ball' ? anyBetween(random, 1.6, 14) : anyBetween(random, 0.9, 8);
  const shapeAt = (center: Point): Shape =>
    kind === 'ball'
      ? ballShape(center, sizePx, middle, anyBetween(random, 1, 1.05), anyBetween(random, 0, Math.PI))
      : discShape(
          center,
          sizePx,
          middle,
          random.uniform() < 0.5 ? 0 : anyBetween(random, 0, 35),
          anyBetween(random, 0, Math.PI)
        );
  const count = wish.twice ? 2 : 1;
  let first: MarkerPicture['marker'] = null;
  for (let i = 0; i < count; i++) {
    const beyond = wish.hidden === 'beyond the border';
    const center = beyond
      ? { x: sizePx * anyBetween(random, 0.18, 0.4), y: anyBetween(random, 0.2, 0.8) * height }
      : freePlace(width, height, 0.5 * sizePx + 6, taken, random);
    if (!center) break;
    taken.push({ center, reach: 0.55 * sizePx + 4 });
    draw(map, width, height, shapeAt(center));
    first ??= { center, sizePx };
    if (wish.hidden === 'under metal') {
      const a = anyBetween(random, 0, 2 * Math.PI);
      const off = sizePx * anyBetween(random, 0.18, 0.42);
      const [c, s] = [Math.cos(a), Math.sin(a)];
      const wide = sizePx * anyBetween(random, 0.7, 1.2);
      const at = { x: center.x + (off + wide / 2) * c, y: center.y + (off + wide / 2) * s };
      const half = sizePx * anyBetween(random, 1, 2);
      draw(
        map,
        width,
        height,
        barShape(
          { x: at.x - half * s, y: at.y + half * c },
          { x: at.x + half * s, y: at.y - half * c },
          wide,
          anyBetween(random, 2, 6)
        )
      );
      taken.push({ center: at, reach: half });
    }
  }
  return first;
}

function drawLong(
  map: Float32Array,
  width: number,
  height: number,
  { marker: kind, sizePx }: MarkerWish & { sizePx: number },
  random: SeededRandom,
  taken: { center: Point; reach: number }[]
): MarkerPicture['marker'] {
  const a = anyBetween(random, 0, Math.PI);
  const [c, s] = [Math.cos(a), Math.sin(a)];
  const longest = 0.62 * Math.min(width, height);
  const lines = Math.max(6, Math.min(40, Math.floor((longest / sizePx) * anyBetween(random, 0.7, 1))));
  const length = kind === 'bar' ? Math.max(24, sizePx) : sizePx * (lines - 1);
  const center = {
    x: width * anyBetween(random, 0.45, 0.55),
    y: height * anyBetween(random, 0.45, 0.55)
  };
  const place = (along: number, across = 0): Point => ({
    x: center.x + along * c - across * s,
    y: center.y + along * s + across * c
  });
  const ends: [Point, Point] = [place(-length / 2), place(length / 2)];
  taken.push({ center, reach: length / 2 });
  const depth = anyBetween(random, 1.2, 7);
  if (kind === 'bar') {
    const wide = Math.max(5, length * anyBetween(random, 0.06, 0.2));
    draw(map, width, height, barShape(...ends, wide, depth, { rod: random.uniform() < 0.5 }));
    return { center, sizePx: length, ends };
  }
  const thick = Math.max(1.6, sizePx * anyBetween(random, 0.1, 0.24));
  const reach = sizePx * anyBetween(random, 0.8, 1.6);
  const longEvery = random.uniform() < 0.7 ? 5 : 0;
  const body = random.uniform() < 0.4;
  const shapes: Shape[] = [];
  for (let i = 0; i < lines; i++) {
    const along = -length / 2 + i * sizePx;
    const far = longEvery && i % longEvery === 0 ? 1.6 * reach : reach;
    shapes.push(barShape(place(along, 0), place(along, far), thick, depth));
  }
  if (body) shapes.push(barShape(place(-length / 2), place(length / 2), thick * 1.2, depth));
  draw(map, width, height, together(shapes));
  return { center, sizePx, ends, lines };
}

function freePlace(
  width: number,
  height: number,
  reach: number,
  taken: readonly { center: Point; reach: number }[],
  random: SeededRandom
): Point | null {
  for (let tries = 0; tries < 300; tries++) {
    const at = {
      x: anyBetween(random, reach, width - reach),
      y: anyBetween(random, reach, height - reach)
    };
    if (taken.every(({ center, reach: r }) => Math.hypot(center.x - at.x, center.y - at.y) > r + reach))
      return at;
  }
  return null;
}
