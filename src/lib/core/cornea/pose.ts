/**
 * How an eye stands before the instrument: turned about its own centre, which lies `turningMm` behind the apex, and
 * shifted. Angles in radians, to the picture's right and up; shifts in mm to the right, down and towards the camera.
 */
export interface Pose {
  right: number;
  up: number;
  x: number;
  y: number;
  towards: number;
}

export const turningMm = 13.5;

/** A pose worked out: eye axes in the room and where the apex lies. Row-wise: x, y and z axis. */
export interface Placed {
  axes: Float64Array;
  apex: Float64Array;
}

export function placedAt(pose: Pose, turning = turningMm): Placed {
  const [ca, sa, cb, sb] = [Math.cos(pose.right), Math.sin(pose.right), Math.cos(pose.up), Math.sin(pose.up)];
  const z = [-sa * cb, sb, ca * cb];
  const x = [ca, 0, sa];
  const y = [z[1] * x[2] - z[2] * x[1], z[2] * x[0] - z[0] * x[2], z[0] * x[1] - z[1] * x[0]];
  const apex = [pose.x - turning * z[0], pose.y - turning * z[1], turning - pose.towards - turning * z[2]];
  return { axes: Float64Array.from([...x, ...y, ...z]), apex: Float64Array.from(apex) };
}

/** Room point or (with `shift` 0) direction to the eye's axes. */
export function toEye(
  { axes, apex }: Placed,
  x: number,
  y: number,
  z: number,
  shift: 0 | 1
): [number, number, number] {
  const dx = x - shift * apex[0];
  const dy = y - shift * apex[1];
  const dz = z - shift * apex[2];
  return [
    axes[0] * dx + axes[1] * dy + axes[2] * dz,
    axes[3] * dx + axes[4] * dy + axes[5] * dz,
    axes[6] * dx + axes[7] * dy + axes[8] * dz
  ];
}

export function toRoom(
  { axes, apex }: Placed,
  x: number,
  y: number,
  z: number,
  shift: 0 | 1
): [number, number, number] {
  return [
    axes[0] * x + axes[3] * y + axes[6] * z + shift * apex[0],
    axes[1] * x + axes[4] * y + axes[7] * z + shift * apex[1],
    axes[2] * x + axes[5] * y + axes[8] * z + shift * apex[2]
  ];
}
