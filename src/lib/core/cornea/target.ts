/**
 * A ring target: what stands before the eye and is seen mirrored in it. Our own, made up. The camera looks along the
 * axis through a hole in the middle; depth counts from the corneal apex at its nominal place towards the camera.
 */
export interface RingTarget {
  name: string;
  /** Edges between dark and bright, from the innermost out: radius from the axis and depth, in mm. */
  edges: { radiusMm: number; depthMm: number }[];
  /** Distance of the camera's entrance pupil from the nominal apex, on the axis. */
  cameraMm: number;
  /** Nominal picture scale at the apex: pixels a millimetre. */
  pxPerMm: number;
  width: number;
  height: number;
}

/** Ring edges on a bowl that comes closer to the eye with each ring, so that outer rings reach the corneal rim. */
function bowl(): RingTarget['edges'] {
  const rings = 24;
  return Array.from({ length: 2 * rings }, (_, i) => {
    const share = i / (2 * rings - 1);
    const angle = 0.075 + 0.93 * share;
    return { radiusMm: 88 * Math.sin(angle), depthMm: 96 * Math.cos(angle) - 22 };
  });
}

export const quillTarget: RingTarget = {
  name: 'Quill bowl, 24 rings',
  edges: bowl(),
  cameraMm: 240,
  pxPerMm: 82,
  width: 1024,
  height: 1024
};

/** Where an edge is seen in an ordinary cornea of 7.8 mm, in pixels from the centre; by the mirror equation, small angles. */
export function mirroredRadiusPx({ edges, pxPerMm }: RingTarget, edge: number, radiusMm = 7.8): number {
  const { radiusMm: r, depthMm } = edges[edge];
  const angle = Math.atan2(r, depthMm + radiusMm / 2) / 2;
  return radiusMm * Math.sin(angle) * pxPerMm;
}
