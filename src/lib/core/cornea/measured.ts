import { type SeededRandom, seededRandom } from '../random';
import { type Coverage, coverageOf, covers } from './coverage';
import type { TakeFit } from './fitTake';
import type { CorneaSheet, TakeToJoin } from './join';
import type { Pose } from './pose';
import { type Heights, type Surface, SurfaceReader } from './surface';

/** A cornea as measured: its shape about the vertex, where it was seen, and how sure whatever follows from it is. */
export interface MeasuredCornea {
  /** x to the picture's right, y down, z into the eye, mm; the vertex, which faces the camera, is the origin of x and y. */
  heights: Heights;
  /** Out to the limbus, about the middle of the rings or, of a sheet, of the eye. */
  coverage: Coverage;
  hasData(x: number, y: number): boolean;
  /**
   * Standard uncertainty of any number that follows from the shape, by drawing shapes from what the edges and the range
   * leave open (GUM Supplement 1). NaN where the number can't be told of the drawn shapes.
   */
  uncertaintyOf(number: (heights: Heights) => number): number;
}

const mostVertexMm = 1.5;
const draws = 40;
/** Neighbouring edges share their faults: so many of them say what one says. */
const alike = 16;

/** One take's shape about its vertex. */
export function takeHeights({ surface }: TakeFit): Heights {
  return about(surface, vertexOf(new SurfaceReader(surface), surface.middle));
}

/** One take's cornea, about its vertex. */
export function takeCornea(fit: TakeFit, limbusMm = 5.75): MeasuredCornea {
  const { middle, coefficients } = fit.surface;
  const pose: Pose = { right: 0, up: 0, x: middle.x, y: middle.y, towards: 0 };
  const changes = (random: SeededRandom) => {
    const change = drawnChange(fit.normal, coefficients.length, random);
    const rangeMm = fit.range.uncertaintyMm * random.normal();
    return change?.map((value, k) => value + rangeMm * fit.byRange[k]) ?? null;
  };
  const coverage = coverageOf([{ fit, gazeRightDeg: 0, gazeUpDeg: 0 }], [pose], limbusMm);
  return measuredOf(fit.surface, middle, coverage, changes);
}

/** The joined cornea, about the vertex of the first take. */
export function sheetCornea(
  sheet: CorneaSheet,
  takes: readonly TakeToJoin[],
  limbusMm = 5.75
): MeasuredCornea {
  const { surface, normal } = sheet;
  const coverage = coverageOf(
    takes,
    sheet.takes.map(({ pose }) => pose),
    limbusMm
  );
  return measuredOf(surface, { x: 0, y: 0 }, coverage, (random) =>
    drawnChange(normal, surface.coefficients.length, random)
  );
}

function drawnChange(normal: TakeFit['normal'], count: number, random: SeededRandom): Float64Array | null {
  const drawn = normal.drawn(() => random.normal() * Math.sqrt(alike));
  return drawn?.subarray(0, count) ?? null;
}

interface Place {
  x: number;
  y: number;
}

/** Where the surface faces the camera squarely, by Newton's steps; where it was looked from when there is no such place near. */
function vertexOf(reader: SurfaceReader, near: Place): Place {
  let { x, y } = near;
  for (let i = 0; i < 8; i++) {
    const { zx, zy } = reader.at(x, y);
    const { zxx, zxy, zyy } = reader.bend();
    const det = zxx * zyy - zxy * zxy;
    x -= (zyy * zx - zxy * zy) / det;
    y -= (zxx * zy - zxy * zx) / det;
  }
  return Math.hypot(x - near.x, y - near.y) < mostVertexMm ? { x, y } : near;
}

const about = (surface: Surface, { x: mx, y: my }: Place): Heights => {
  const reader = new SurfaceReader(surface);
  return { at: (x, y) => reader.at(mx + x, my + y) };
};

function measuredOf(
  surface: Surface,
  middle: Place,
  coverage: Coverage,
  changes: (random: SeededRandom) => Float64Array | null
): MeasuredCornea {
  const vertex = vertexOf(new SurfaceReader(surface), middle);
  const [offX, offY] = [vertex.x - middle.x, vertex.y - middle.y];
  let drawn: Heights[] | null = null;
  const drawnShapes = () => {
    const random = seededRandom(1);
    return (drawn ??= Array.from({ length: draws }, () => changes(random)).flatMap((change) =>
      change === null
        ? []
        : [about({ ...surface, coefficients: surface.coefficients.map((c, k) => c + change[k]) }, vertex)]
    ));
  };
  return {
    heights: about(surface, vertex),
    coverage,
    hasData: (x, y) => covers(coverage, x + offX, y + offY),
    uncertaintyOf: (number) => {
      const values = drawnShapes().map(number);
      if (values.length < draws) return NaN;
      const mean = values.reduce((sum, value) => sum + value, 0) / values.length;
      return Math.sqrt(values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / (values.length - 1));
    }
  };
}
