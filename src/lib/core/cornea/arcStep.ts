import { rayThrough } from './reflection';
import type { FoundRings } from './rings';
import type { RingTarget } from './target';

/** A ring edge's place on the cornea, in the room's axes, mm. */
export interface EdgePlace {
  edge: number;
  meridian: number;
  x: number;
  y: number;
  z: number;
}

const rounds = 6;

/**
 * The classical arc-step (Doss et al., 1981; van Saarloos and Constable, 1991): in each meridian, from the apex out,
 * circular arcs that join without a kink, each as steep at its end as the law of reflection asks there. It takes every
 * ray to stay in its meridian's plane, so it is exact for a surface of revolution about the camera's axis only.
 * @param apexMm z of the surface where the rings have their centre
 * @param every which meridians: each, each second and so on
 * @returns a place for every edge that was seen
 */
export function arcStep(rings: FoundRings, target: RingTarget, apexMm: number, every = 1): EdgePlace[] {
  const { cameraMm, pxPerMm } = target;
  const middle = rayThrough(target, rings.center);
  const out: EdgePlace[] = [];
  for (let meridian = 0; meridian < rings.meridians; meridian += every) {
    const a = (2 * Math.PI * meridian) / rings.meridians;
    const [c, s] = [Math.cos(a), Math.sin(a)];
    const off = middle.x * c + middle.y * s;
    let [r, z, angle] = [0, apexMm, 0];
    target.edges.forEach(({ radiusMm, depthMm }, edge) => {
      const away = rings.radii[edge][meridian] / pxPerMm;
      if (Number.isNaN(away)) return;
      // The target's edge from the line between camera and apex.
      const to = radiusMm - off * (1 - depthMm / cameraMm);
      let [nextR, nextZ, nextAngle] = [away, z + (away - r) * Math.tan(angle), angle];
      for (let i = 0; i < rounds; i++) {
        nextR = away * (1 + nextZ / cameraMm);
        nextAngle = slopeAngle(nextR, nextZ, to, depthMm, cameraMm);
        nextZ = z + (nextR - r) * Math.tan((angle + nextAngle) / 2);
      }
      [r, z, angle] = [nextR, nextZ, nextAngle];
      const stretch = 1 + z / cameraMm;
      out.push({ edge, meridian, x: middle.x * stretch + r * c, y: middle.y * stretch + r * s, z });
    });
  }
  return out;
}

/** How far a mirror at (r, z) leans from facing the camera's axis: its normal halves the angle between camera and target. */
function slopeAngle(r: number, z: number, toR: number, depthMm: number, cameraMm: number): number {
  const camera = Math.hypot(r, cameraMm + z);
  const target = Math.hypot(toR - r, depthMm + z);
  const across = -r / camera + (toR - r) / target;
  const back = (cameraMm + z) / camera + (depthMm + z) / target;
  return Math.atan2(across, back);
}
