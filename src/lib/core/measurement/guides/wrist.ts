import type { Point } from '../../raster/orientation';
import { alongLine, angleAtDeg } from '../geometry';
import { type Guide, landmark } from './guide';

const friberg = {
  author: 'Friberg and Lundstrom',
  year: 1976,
  title: 'Radiographic measurements of the radio-carpal joint in normal adults'
};
const steyers = {
  author: 'Steyers and Blair',
  year: 1989,
  title: 'Measuring ulnar variance: a comparison of techniques'
};
const mind = 'A hand turned by ten degrees about its own length changes it by several.';

/** How far a line leans from square to an axis, in degrees: positive when its far end is further along the axis. */
function leanDeg(from: Point, to: Point, axisStart: Point, axisEnd: Point): number {
  const origin = { x: 0, y: 0 };
  const along = { x: axisEnd.x - axisStart.x, y: axisEnd.y - axisStart.y };
  return 90 - angleAtDeg({ x: to.x - from.x, y: to.y - from.y }, origin, along);
}

const axis = (view: string, x: number) => [
  landmark(
    'axis upper',
    'Shaft, further from the hand',
    'Middle between both edges of the radius, as far up as is seen',
    x,
    0.95
  ),
  landmark(
    'axis lower',
    'Shaft, nearer the hand',
    `Middle between both edges of the radius, where it begins to widen (${view})`,
    x,
    0.62
  )
];

/** Distal radius from the front and from the side, after the axis of its own shaft. */
export const distalRadius: Guide = {
  key: 'distal-radius',
  version: 1,
  name: 'Distal radius',
  trade: 'bones',
  views: [
    {
      key: 'front',
      name: 'Wrist from the front',
      lines: [
        ['axis upper', 'axis lower'],
        ['ulnar corner', 'styloid']
      ],
      sharpens: [{ kind: 'shaft', ends: ['axis upper', 'axis lower'] }],
      landmarks: [
        ...axis('front', 0.4),
        landmark(
          'styloid',
          'Radial styloid',
          'The furthest point of the radius, on the thumb’s side',
          0.24,
          0.36
        ),
        landmark(
          'ulnar corner',
          'Inner corner',
          'Edge of the radius’ joint surface next to the ulna; middle of its front and back edge',
          0.56,
          0.46
        ),
        landmark(
          'ulnar head',
          'Ulna’s head',
          'The furthest part of the ulna’s joint surface, not its styloid',
          0.68,
          0.47
        )
      ]
    },
    {
      key: 'side',
      name: 'Wrist from the side',
      lines: [
        ['axis upper', 'axis lower'],
        ['volar rim', 'dorsal rim']
      ],
      sharpens: [{ kind: 'shaft', ends: ['axis upper', 'axis lower'] }],
      landmarks: [
        ...axis('side', 0.5),
        landmark(
          'dorsal rim',
          'Back rim',
          'The furthest point of the joint surface towards the back of the hand',
          0.64,
          0.4
        ),
        landmark(
          'volar rim',
          'Palm rim',
          'The furthest point of the joint surface towards the palm',
          0.36,
          0.46
        )
      ]
    }
  ],
  formulas: [
    {
      key: 'inclination',
      name: 'Radial inclination',
      unit: 'deg',
      power: 0,
      needs: ['front.ulnar corner', 'front.styloid', 'front.axis upper', 'front.axis lower'],
      of: (at) =>
        leanDeg(
          at('front.ulnar corner'),
          at('front.styloid'),
          at('front.axis upper'),
          at('front.axis lower')
        ),
      source: friberg,
      normal: { low: 13, high: 30, source: friberg },
      mind
    },
    {
      key: 'height',
      name: 'Radial height',
      unit: 'mm',
      power: 1,
      needs: ['front.ulnar corner', 'front.styloid', 'front.axis upper', 'front.axis lower'],
      of: (at) => further(at, 'front.styloid', 'front.ulnar corner'),
      source: friberg,
      normal: { low: 8, high: 18, source: friberg },
      mind
    },
    {
      key: 'tilt',
      name: 'Volar tilt',
      unit: 'deg',
      power: 0,
      needs: ['side.volar rim', 'side.dorsal rim', 'side.axis upper', 'side.axis lower'],
      of: (at) =>
        leanDeg(at('side.volar rim'), at('side.dorsal rim'), at('side.axis upper'), at('side.axis lower')),
      source: friberg,
      normal: { low: 1, high: 21, source: friberg },
      sign: 'Above 0 the joint faces the palm, below 0 the back of the hand.',
      mind
    },
    {
      key: 'ulnar variance',
      name: 'Ulnar variance',
      unit: 'mm',
      power: 1,
      needs: ['front.ulnar corner', 'front.ulnar head', 'front.axis upper', 'front.axis lower'],
      of: (at) => further(at, 'front.ulnar head', 'front.ulnar corner'),
      source: steyers,
      sign: 'Above 0 the ulna is the longer.',
      mind: 'Gripping and turning the forearm change it by a millimetre and more.'
    }
  ]
};

/** How much further along the shaft's axis one point lies than another. */
function further(at: (key: string) => Point, point: string, than: string): number {
  const [a, b] = [at('front.axis upper'), at('front.axis lower')];
  return alongLine(at(point), a, b) - alongLine(at(than), a, b);
}
