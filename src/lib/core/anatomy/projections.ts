/** What makes the picture that a slot waits for. */
export const imagings = ['radiograph', 'photograph', 'rings', 'ultrasound'] as const;
export type Imaging = (typeof imagings)[number];

interface ProjectionFacts {
  words: string;
  imaging: Imaging;
  /** Whether the detector lies in the mouth: only such a picture is an intra-oral radiograph. */
  inMouth?: boolean;
  /** DICOM View Position (0018,5101), where the standard has a term for it. */
  viewPosition?: string;
}

/** How the beam or the camera stands to the body. */
const projections = {
  bitewing: { words: 'bitewing', imaging: 'radiograph', inMouth: true },
  periapical: { words: 'periapical', imaging: 'radiograph', inMouth: true },
  occlusal: { words: 'occlusal', imaging: 'radiograph', inMouth: true },
  panoramic: { words: 'panoramic', imaging: 'radiograph' },
  'front to back': { words: 'front to back', imaging: 'radiograph', viewPosition: 'AP' },
  'back to front': { words: 'back to front', imaging: 'radiograph', viewPosition: 'PA' },
  'from the side': { words: 'from the side', imaging: 'radiograph', viewPosition: 'LL' },
  oblique: { words: 'oblique', imaging: 'radiograph' },
  axial: { words: 'axial', imaging: 'radiograph' },
  'belly to back': { words: 'belly to back', imaging: 'radiograph' },
  photograph: { words: 'photograph', imaging: 'photograph' },
  rings: { words: 'ring picture', imaging: 'rings' },
  scan: { words: 'scan', imaging: 'ultrasound' }
} satisfies Record<string, ProjectionFacts>;

export type Projection = keyof typeof projections;
export const projectionNames = Object.keys(projections) as [Projection, ...Projection[]];
const factsOf = (projection: Projection): ProjectionFacts => projections[projection];

export const projectionWords = (projection: Projection): string => factsOf(projection).words;
export const imagingOf = (projection: Projection): Imaging => factsOf(projection).imaging;
export const isInMouth = (projection: Projection): boolean => factsOf(projection).inMouth === true;
export const viewPositionOf = (projection: Projection): string | undefined =>
  factsOf(projection).viewPosition;
