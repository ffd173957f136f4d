/** What a thing of known size looks like in a picture; a plain length is not looked for. */
export const markerShapes = ['ball', 'disc', 'length'] as const;
export type MarkerShape = (typeof markerShapes)[number];

/** Something of known size that a clinic lays into its pictures. */
export interface ClinicMarker {
  markerId: string;
  name: string;
  shape: MarkerShape;
  sizeMm: number;
  /** Half the range its size may have. */
  toleranceMm: number;
}
