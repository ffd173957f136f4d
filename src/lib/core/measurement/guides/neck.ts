import type { Point } from '../../raster/orientation';
import { turnDeg } from '../geometry';
import { type Formula, type Guide, landmark } from './guide';

const harrison = {
  author: 'Harrison, Janik, Troyanovich and Holland',
  year: 1996,
  title: 'Comparisons of lordotic cervical spine curvatures to a theoretical ideal model',
  fromMemory: true as const
};

const levels = ['C2', 'C3', 'C4', 'C5', 'C6', 'C7'];
const positions = [
  ['neutral', 'Neck from the side, upright'],
  ['bent', 'Neck from the side, bent forward'],
  ['stretched', 'Neck from the side, bent back']
] as const;

type At = (key: string) => Point;

/**
 * How much the back of a vertebra is turned against that of a lower one, in degrees: above 0 the curve is hollow at the
 * back (lordosis). Which way the neck looks is told by where the front of C7 lies.
 */
const tangents = (view: string, above: string, below: string) => (at: At) => {
  const back = (name: string): Point => {
    const [top, bottom] = [at(`${view}.${name} upper back`), at(`${view}.${name} lower back`)];
    return { x: top.x - bottom.x, y: top.y - bottom.y };
  };
  const looksLeft = at(`${view}.C7 front`).x < at(`${view}.C7 lower back`).x;
  const turn = turnDeg(back(below), back(above));
  return looksLeft ? turn : -turn;
};

const backs = (view: string, names: string[]) =>
  names.flatMap((name) => [`${view}.${name} upper back`, `${view}.${name} lower back`]);

const ofView = (view: string, name: string): Formula[] => {
  const front = `${view}.C7 front`;
  const withFront = (needs: string[]) => [...new Set([...needs, `${view}.C7 lower back`, front])];
  return [
    {
      key: `${view} C2-C7`,
      name: `C2 to C7, ${name}`,
      unit: 'deg',
      power: 0,
      needs: withFront(backs(view, ['C2', 'C7'])),
      of: tangents(view, 'C2', 'C7'),
      source: harrison,
      ...(view === 'neutral'
        ? { normal: { low: 16, high: 52, means: 'mean of 34 with two deviations of 9', source: harrison } }
        : {}),
      sign: 'Above 0 hollow at the back (lordosis).'
    },
    ...levels.slice(1).map((below, i): Formula => ({
      key: `${view} ${levels[i]}-${below}`,
      name: `${levels[i]} on ${below}, ${name}`,
      unit: 'deg',
      power: 0,
      needs: withFront(backs(view, [levels[i], below])),
      of: tangents(view, levels[i], below),
      source: harrison,
      sign: 'Above 0 hollow at the back (lordosis).'
    }))
  ];
};

const motion = (to: 'bent' | 'stretched'): Formula[] =>
  levels.slice(1).map((below, i) => {
    const above = levels[i];
    const needs = ['neutral', to].flatMap((view) => [
      ...new Set([...backs(view, [above, below]), `${view}.C7 lower back`, `${view}.C7 front`])
    ]);
    return {
      key: `motion ${to} ${above}-${below}`,
      name: `${above} on ${below}, from upright to ${to}`,
      unit: 'deg',
      power: 0,
      needs,
      of: (at) => tangents(to, above, below)(at) - tangents('neutral', above, below)(at),
      source: harrison
    };
  });

/** The neck from the side in three positions, by posterior tangents; the head's shift before the lowest vertebra. */
export const neckCurve: Guide = {
  key: 'neck-curve',
  version: 1,
  name: 'Neck from the side',
  trade: 'bones',
  views: positions.map(([key, name]) => ({
    key,
    name,
    lines: levels.map((level) => [`${level} upper back`, `${level} lower back`] as const),
    landmarks: [
      ...levels.flatMap((level, i) => {
        const y = 0.2 + 0.13 * i;
        return [
          landmark(
            `${level} upper back`,
            `${level} upper back corner`,
            `Upper end of the back edge of ${level}`,
            0.55 - 0.02 * i,
            y
          ),
          landmark(
            `${level} lower back`,
            `${level} lower back corner`,
            `Lower end of the back edge of ${level}`,
            0.545 - 0.02 * i,
            y + 0.09
          )
        ];
      }),
      landmark(
        'C7 front',
        'C7, front',
        'Any point on the front edge of C7: it tells which way the neck looks',
        0.3,
        0.9
      )
    ]
  })),
  formulas: [
    ...positions.flatMap(([key, name]) => ofView(key, name.split(', ')[1])),
    {
      key: 'head shift',
      name: 'Shift of C2 before C7',
      unit: 'mm',
      power: 1,
      needs: ['neutral.C2 upper back', 'neutral.C7 lower back', 'neutral.C7 front'],
      of: (at) => {
        const forward = at('neutral.C7 lower back').x - at('neutral.C2 upper back').x;
        return at('neutral.C7 front').x < at('neutral.C7 lower back').x ? forward : -forward;
      },
      source: harrison,
      sign: 'Above 0 the head stands before the shoulders. The picture’s rows are taken to be level.'
    },
    ...motion('bent'),
    ...motion('stretched')
  ]
};
