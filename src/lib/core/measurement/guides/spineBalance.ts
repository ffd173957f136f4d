import type { Point } from '../../raster/orientation';
import { type Formula, type Guide, landmark, optional } from './guide';

const manual = {
  author: 'O’Brien, Kuklo, Blanke and Lenke',
  year: 2005,
  title: 'Radiographic measurement manual of the Spinal Deformity Study Group',
  fromMemory: true as const
};

const aside = (key: string, name: string, upper: string, normal?: Formula['normal']): Formula => ({
  key,
  name,
  unit: 'mm',
  power: 1,
  needs: [`front.${upper}`, 'front.S1'],
  // From the front the patient's left is on the right of the picture.
  of: (at) => at(`front.${upper}`).x - at('front.S1').x,
  source: manual,
  sign: 'Above 0 to the patient’s left of the line upright through the sacrum, below 0 to the right.',
  ...(normal ? { normal } : {})
});

function bothSides(at: (key: string) => Point, part: string): [right: Point, left: Point] {
  const [right, left] = [at(`front.${part} right`), at(`front.${part} left`)];
  if (right.x >= left.x)
    throw new RangeError(
      'the patient’s right lies on the right of the picture: it is mirrored, or seen from behind'
    );
  return [right, left];
}
const tilt = (key: string, name: string, part: string): Formula => ({
  key,
  name,
  unit: 'deg',
  power: 0,
  needs: [`front.${part} right`, `front.${part} left`],
  of: (at) => {
    const [right, left] = bothSides(at, part);
    return (Math.atan2(right.y - left.y, left.x - right.x) * 180) / Math.PI;
  },
  source: manual,
  sign: 'Above 0 the patient’s left side is higher.'
});

const pair = (part: string, name: string, where: string, x: number, y: number) =>
  (['right', 'left'] as const).map((side) =>
    landmark(`${part} ${side}`, `${name}, ${side}`, where, side === 'right' ? x : 1 - x, y)
  );

/** How a spine stands over the pelvis, from the front. */
export const spineBalance: Guide = {
  key: 'spine-balance',
  version: 1,
  name: 'Balance of the spine',
  trade: 'bones',
  views: [
    {
      key: 'front',
      name: 'Whole spine from the front, standing',
      lines: [
        ['T1 right', 'T1 left'],
        ['shoulder right', 'shoulder left'],
        ['crest right', 'crest left'],
        ['C7', 'S1']
      ],
      landmarks: [
        landmark('C7', 'C7', 'Middle of the body of C7, the lowest vertebra of the neck', 0.5, 0.044),
        landmark('S1', 'Sacrum', 'Middle of the upper edge of the sacrum', 0.5, 0.75),
        ...pair('T1', 'T1', 'Upper outer corner of the body of T1', 0.455, 0.075),
        ...pair('shoulder', 'Collar bone', 'Highest point of the collar bone over the rib cage', 0.3, 0.09),
        ...pair('crest', 'Iliac crest', 'Highest point of the iliac crest', 0.235, 0.725),
        optional(
          landmark(
            'apex',
            'Apex of the curve',
            'Middle of the vertebra that lies furthest off the middle line',
            0.5,
            0.37
          )
        )
      ]
    }
  ],
  formulas: [
    aside('balance', 'Coronal balance, C7', 'C7', { low: -20, high: 20, source: manual }),
    aside('apex', 'Apex off the middle line', 'apex'),
    tilt('T1 tilt', 'Tilt of T1', 'T1'),
    tilt('pelvis tilt', 'Obliquity of the pelvis', 'crest'),
    {
      key: 'shoulders',
      name: 'Shoulders, difference of height',
      unit: 'mm',
      power: 1,
      needs: ['front.shoulder right', 'front.shoulder left'],
      of: (at) => {
        const [right, left] = bothSides(at, 'shoulder');
        return right.y - left.y;
      },
      source: manual,
      sign: 'Above 0 the patient’s left shoulder is higher.'
    }
  ]
};
