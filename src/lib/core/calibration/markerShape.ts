/** What a thing of known size looks like in a picture; a plain length is not looked for. */
export const markerShapes = ['ball', 'disc', 'bar', 'ruler', 'plumb line', 'length'] as const;
export type MarkerShape = (typeof markerShapes)[number];

/** Something of known size that a clinic lays into its pictures. */
export interface ClinicMarker {
  markerId: string;
  name: string;
  shape: MarkerShape;
  /** Across a ball or disc, from end to end of a bar, from line to line of a ruler, between the balls of a plumb line. */
  sizeMm: number;
  /** Half the range that may have. */
  toleranceMm: number;
}
