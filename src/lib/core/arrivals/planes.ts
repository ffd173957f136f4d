type Normal = readonly [number, number, number];

/** Planes that differ by less than this are one: a stack may be tilted a little from slice to slice. */
const samePlaneDeg = 5;

/**
 * Slices of one series, those of each plane together, in the order in which each plane is met first. Slices whose plane
 * is turned about are of another: along its normal they would lie the other way round. What names no plane is of one.
 */
export function byPlane<T>(slices: readonly T[], normalOf: (slice: T) => Normal | null): T[][] {
  const planes: { normal: Normal | null; slices: T[] }[] = [];
  const near = Math.cos((samePlaneDeg * Math.PI) / 180);
  for (const slice of slices) {
    const normal = normalOf(slice);
    const fits = planes.find((plane) =>
      plane.normal && normal ? dot(plane.normal, normal) > near : plane.normal === normal
    );
    if (fits) fits.slices.push(slice);
    else planes.push({ normal, slices: [slice] });
  }
  return planes.map((plane) => plane.slices);
}

const dot = ([a, b, c]: Normal, [x, y, z]: Normal): number => a * x + b * y + c * z;

const mostObliqueDeg = 30;
/** Along the axes of a patient (PS3.3 C.7.6.2.1.1): to the left, to the back, to the head. */
const planesByAxis = ['sagittal', 'coronal', 'axial'];

/** What a plane is called by its normal: `planeName([0, 0, 1])` is "axial". */
export function planeName(normal: Normal): string {
  const along = normal.map(Math.abs);
  const axis = along.indexOf(Math.max(...along));
  return along[axis] >= Math.cos((mostObliqueDeg * Math.PI) / 180) ? planesByAxis[axis] : 'oblique';
}
