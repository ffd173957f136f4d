import type { Point } from '../../raster/orientation';
import { middleOf } from '../geometry';
import { type Formula, type Guide, type Landmark, landmark, optional } from './guide';

const harrison = {
  author: 'Harrison, Janik, Harrison, Cailliet and Harmon',
  year: 1999,
  title: 'Upright static posture as rotations and translations in three dimensions',
  fromMemory: true as const
};

type At = (key: string) => Point;
const parts = ['head', 'chest', 'pelvis'] as const;
const partWords = { head: 'Head', chest: 'Chest', pelvis: 'Pelvis' };
const heights = { head: 0.13, chest: 0.24, pelvis: 0.46 };
const halves = { head: 0.06, chest: 0.16, pelvis: 0.1 };
const mind = 'Clothes and skin move over the bone; the person sways by a centimetre.';

const frontPair = (part: string): [string, string] => [`front.${part} right`, `front.${part} left`];
/** From the patient's right marker to the left one, which lies on the picture's right when seen from the front. */
function across(at: At, part: string): [right: Point, left: Point] {
  const [right, left] = frontPair(part).map(at);
  if (left.x <= right.x)
    throw new RangeError(
      `the ${part}’s left marker does not lie on the picture’s right: the photograph is mirrored or taken from behind, or the two are swapped`
    );
  return [right, left];
}
const frontMiddle = (at: At, part: string) => middleOf(...across(at, part));

/** How much a line rises, in degrees; NaN for one without length. */
const leanDeg = (across: number, up: number) =>
  across === 0 && up === 0 ? NaN : (Math.atan2(up, across) * 180) / Math.PI;

/** Roll: how much the line from the right to the left marker leans. The patient's left is on the picture's right. */
const roll = (part: (typeof parts)[number]): Formula => ({
  key: `${part} roll`,
  name: `${partWords[part]} tilted sideways`,
  unit: 'deg',
  power: 0,
  needs: frontPair(part),
  of: (at) => {
    const [right, left] = across(at, part);
    return leanDeg(left.x - right.x, right.y - left.y);
  },
  source: harrison,
  sign: 'Above 0 the left side is higher.',
  mind
});

const shiftLeft = (part: 'head' | 'chest', than: 'chest' | 'pelvis'): Formula => ({
  key: `${part} left`,
  name: `${partWords[part]} shifted sideways against the ${than}`,
  unit: 'mm',
  power: 1,
  needs: [...frontPair(part), ...frontPair(than)],
  of: (at) => frontMiddle(at, part).x - frontMiddle(at, than).x,
  source: harrison,
  sign: 'Above 0 towards the left.',
  mind
});

/** How far the marker on the front of a part lies before the one on its side; it can't lie behind it. */
function before(at: At, side: 'right' | 'left', own: string, front: string): number {
  const ahead = forward[side] * (at(`${side}.${front}`).x - at(`${side}.${own}`).x);
  if (ahead <= 0)
    throw new RangeError(
      `the marker on the front lies behind the one on the side: the photograph is mirrored or of the other side, or the two are swapped`
    );
  return ahead;
}

/** From one side: +1 where forward is to the right of the picture (right side seen), -1 where it is to the left. */
const forward = { right: 1, left: -1 } as const;

const sideShift = (side: 'right' | 'left', part: 'head' | 'chest', than: 'chest' | 'hip'): Formula => ({
  key: `${part} forward ${side}`,
  name: `${partWords[part]} shifted forward against the ${than === 'hip' ? 'hip' : 'chest'}, ${side} side`,
  unit: 'mm',
  power: 1,
  needs: [`${side}.${part}`, `${side}.${than}`, `${side}.${part} front`],
  of: (at) => {
    before(at, side, part, `${part} front`);
    return forward[side] * (at(`${side}.${part}`).x - at(`${side}.${than}`).x);
  },
  source: harrison,
  sign: 'Above 0 forward.',
  mind
});

/** The line from the side marker to the front marker of a part against level: its change is a turn forward. */
const pitch = (side: 'right' | 'left', part: 'head' | 'chest' | 'pelvis'): Formula => {
  const from = part === 'pelvis' ? 'hip' : part;
  return {
    key: `${part} pitch ${side}`,
    name: `${partWords[part]} line against level, ${side} side`,
    unit: 'deg',
    power: 0,
    needs: [`${side}.${from}`, `${side}.${part} front`],
    of: (at) => {
      const [own, front] = [at(`${side}.${from}`), at(`${side}.${part} front`)];
      return leanDeg(before(at, side, from, `${part} front`), own.y - front.y);
    },
    source: harrison,
    sign: 'Above 0 the front marker is the higher; compare one day with another.',
    mind
  };
};

/** The plumb line's two balls: the vertical, and by how far they hang apart the scale. */
const plumbLine = (x: number): Landmark[] =>
  (['upper', 'lower'] as const).map((ball) => ({
    ...landmark(
      `plumb ${ball}`,
      `Plumb line, ${ball} ball`,
      `The middle of the ${ball} ball`,
      x,
      ball === 'upper' ? 0.15 : 0.85
    ),
    optional: true,
    beside: true
  }));
const hangs = { vertical: ['plumb upper', 'plumb lower'] as const, finds: 'plumb line and markers' as const };

const sideView = (side: 'right' | 'left') => {
  const x = 0.5;
  const ahead = side === 'right' ? 0.06 : -0.06;
  return {
    key: side,
    name: `From the ${side} side, beside the plumb line`,
    ...hangs,
    landmarks: [
      landmark('head', 'Ear marker', 'The marker before the ear', x, heights.head),
      landmark('head front', 'Forehead marker', 'The marker on the forehead', x + ahead, heights.head - 0.02),
      landmark('chest', 'Shoulder marker', 'The marker on the tip of the shoulder', x, heights.chest),
      landmark(
        'chest front',
        'Breastbone marker',
        'The marker on the breastbone',
        x + ahead,
        heights.chest + 0.03
      ),
      landmark(
        'pelvis front',
        'Pelvis marker',
        'The marker on the front corner of the pelvis',
        x + ahead,
        heights.pelvis - 0.02
      ),
      landmark('hip', 'Hip marker', 'The marker on the outer bump of the hip', x, heights.pelvis + 0.05),
      ...plumbLine(x - 6 * ahead)
    ]
  };
};

/** Posture from three photographs with markers on the body; a plumb line with two balls gives scale and the vertical. */
export const posture: Guide = {
  key: 'posture',
  version: 2,
  name: 'Posture from three photographs',
  trade: 'bones',
  views: [
    {
      key: 'front',
      name: 'From the front, beside the plumb line',
      ...hangs,
      lines: parts.map((part) => [`${part} right`, `${part} left`] as const),
      landmarks: [
        ...parts.flatMap((part) => [
          landmark(
            `${part} right`,
            `${partWords[part]} marker, right`,
            `The marker on the right of the ${part}`,
            0.5 - halves[part],
            heights[part]
          ),
          landmark(
            `${part} left`,
            `${partWords[part]} marker, left`,
            `The marker on the left of the ${part}`,
            0.5 + halves[part],
            heights[part]
          )
        ]),
        optional(
          landmark('head front', 'Forehead marker', 'The marker on the forehead', 0.5, heights.head - 0.03)
        ),
        optional(
          landmark(
            'chest front',
            'Breastbone marker',
            'The marker on the breastbone',
            0.5,
            heights.chest + 0.03
          )
        ),
        optional(
          landmark(
            'hip right',
            'Hip marker, right',
            'The marker on the outer bump of the right hip',
            0.35,
            heights.pelvis + 0.05
          )
        ),
        optional(
          landmark(
            'hip left',
            'Hip marker, left',
            'The marker on the outer bump of the left hip',
            0.65,
            heights.pelvis + 0.05
          )
        ),
        ...plumbLine(0.04)
      ]
    },
    sideView('right'),
    sideView('left')
  ],
  formulas: [
    ...parts.map(roll),
    shiftLeft('head', 'chest'),
    shiftLeft('chest', 'pelvis'),
    ...(['right', 'left'] as const).flatMap((side) => [
      sideShift(side, 'head', 'chest'),
      sideShift(side, 'chest', 'hip'),
      ...parts.map((part) => pitch(side, part))
    ])
  ]
};
