import { angleAtDeg, distance, offLine } from '../geometry';
import { type Formula, type Guide, landmark, optional } from './guide';

const olsson = {
  author: 'Olsson',
  year: 1961,
  title: 'Roentgen examination of the hip joints of German shepherd dogs'
};

const norberg = (side: 'right' | 'left', other: 'right' | 'left'): Formula => ({
  key: side,
  name: `Norberg angle, ${side}`,
  unit: 'deg',
  power: 0,
  needs: [`below.${side} head`, `below.${other} head`, `below.${side} rim`, `below.${other} rim`],
  of: (at) => {
    const [head, further] = [at(`below.${side} head`), at(`below.${other} head`)];
    const [rim, otherRim] = [at(`below.${side} rim`), at(`below.${other} rim`)];
    if (offLine(rim, head, further) * offLine(otherRim, head, further) <= 0)
      throw new RangeError('the two rims do not lie on the same side of the line of both heads');
    if (distance(rim, head) > distance(rim, further))
      throw new RangeError('the rim lies nearer to the other head than to its own: the sides are swapped');
    return angleAtDeg(further, head, rim);
  },
  source: olsson,
  normal: { low: 105, high: 180, source: olsson },
  mind: 'A pelvis turned about its length opens one side and closes the other: compare both halves of the pelvis first.'
});

const tomlinson = {
  author: 'Tomlinson and Johnson',
  year: 2000,
  title:
    'Quantification of measurement of femoral head coverage and Norberg angle within and among four breeds of dogs',
  fromMemory: true as const
};

/**
 * Share of the head's disc that the socket's upper rim covers: what lies inwards of the chord between the two places where
 * the rim crosses the head's outline. Worked value: a chord through the middle covers 50 %.
 */
const coverShare = (side: 'right' | 'left', other: 'right' | 'left'): Formula => {
  const [head, edge, front, back] = ['head', 'head edge', 'rim in front', 'rim behind'].map(
    (key) => `below.${side} ${key}`
  );
  return {
    key: `${side} cover`,
    name: `Head under cover, ${side}`,
    unit: '%',
    power: 0,
    needs: [head, edge, front, back, `below.${other} head`],
    of: (at) => {
      const radius = distance(at(head), at(edge));
      const inwards = Math.sign(offLine(at(`below.${other} head`), at(front), at(back)));
      const off = (inwards * offLine(at(head), at(front), at(back))) / radius;
      if (Math.abs(off) >= 1) throw new RangeError('the rim does not cross the outline of the head');
      return 100 * (1 - (Math.acos(off) - off * Math.sqrt(1 - off * off)) / Math.PI);
    },
    source: tomlinson,
    normal: { low: 50, high: 100, source: tomlinson }
  };
};

/** Hip cover angle: between the line of both heads and the line to the front rim of the socket. */
export const hipCover: Guide = {
  key: 'hip-cover',
  version: 2,
  name: 'Hip cover (Norberg)',
  trade: 'animals',
  views: [
    {
      key: 'below',
      name: 'Pelvis, lying on the back, hind legs stretched',
      lines: [
        ['right head', 'left head'],
        ['right head', 'right rim'],
        ['left head', 'left rim'],
        ['right rim in front', 'right rim behind'],
        ['left rim in front', 'left rim behind']
      ],
      sharpens: [
        { kind: 'round', landmark: 'right head' },
        { kind: 'round', landmark: 'left head' }
      ],
      landmarks: (['right', 'left'] as const).flatMap((side) => {
        const x = side === 'right' ? 0.3 : 0.7;
        return [
          landmark(`${side} head`, `Head, ${side}`, 'Middle of the round head of the thigh bone', x, 0.6),
          landmark(
            `${side} rim`,
            `Rim, ${side}`,
            'Outermost front edge of the socket',
            x + (side === 'right' ? -0.03 : 0.03),
            0.48
          ),
          ...(
            [
              [
                'head edge',
                'Outline of the head',
                'Any point on the round outline of the head, away from the socket',
                -0.068,
                0.615
              ],
              [
                'rim in front',
                'Upper rim, in front',
                'Where the upper rim of the socket crosses the outline of the head, in front',
                0.015,
                0.54
              ],
              [
                'rim behind',
                'Upper rim, behind',
                'Where the upper rim of the socket crosses the outline of the head, behind',
                0.02,
                0.66
              ]
            ] as const
          ).map(([key, name, where, dx, y]) =>
            optional(
              landmark(`${side} ${key}`, `${name}, ${side}`, where, x + (side === 'right' ? dx : -dx), y)
            )
          )
        ];
      })
    }
  ],
  formulas: [
    norberg('right', 'left'),
    norberg('left', 'right'),
    coverShare('right', 'left'),
    coverShare('left', 'right')
  ]
};
