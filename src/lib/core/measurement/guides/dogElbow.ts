import type { Point } from '../../raster/orientation';
import { fittedCircle } from '../fit/circle';
import { angleAtDeg, distance } from '../geometry';
import { type Formula, type Guide, landmark } from './guide';

const blond = {
  author: 'Blond, Dupuis, Beauregard and others',
  year: 2005,
  title:
    'Sensitivity and specificity of radiographic detection of canine elbow incongruence in an in vitro model',
  fromMemory: true as const
};
const arc = ['side.anconeal', 'side.notch', 'side.coronoid'];

function notch(at: Parameters<Formula['of']>[0]): { center: Point; radius: number } {
  const circle = fittedCircle(arc.map(at));
  if (!circle) throw new RangeError('the three points of the notch lie on a line: they tell no circle');
  return circle;
}

/** Whether radius and ulna fit one another: the notch as a circle, and how far the radius stands off it. */
export const elbowFit: Guide = {
  key: 'elbow-fit',
  version: 1,
  name: 'Fit of the elbow',
  trade: 'animals',
  views: [
    {
      key: 'side',
      name: 'Elbow from the side, bent to a right angle',
      lines: [
        ['anconeal', 'notch'],
        ['notch', 'coronoid'],
        ['coronoid', 'radius']
      ],
      landmarks: [
        landmark(
          'anconeal',
          'Tip of the anconeal process',
          'Upper front tip of the ulna’s notch',
          0.53,
          0.29
        ),
        landmark('notch', 'Depth of the notch', 'Middle of the hollow of the ulna’s notch', 0.565, 0.42),
        landmark(
          'coronoid',
          'Tip of the coronoid process',
          'Lower front tip of the ulna’s notch, behind the radius',
          0.475,
          0.535
        ),
        landmark(
          'radius',
          'Back edge of the radius',
          'Where the joint surface of the radius ends against the ulna',
          0.4,
          0.565
        )
      ]
    }
  ],
  formulas: [
    {
      key: 'notch angle',
      name: 'Opening of the notch',
      unit: 'deg',
      power: 0,
      needs: arc,
      of: (at) => {
        const { center } = notch(at);
        const [upper, middle, lower] = arc.map(at);
        return angleAtDeg(upper, center, middle) + angleAtDeg(middle, center, lower);
      },
      source: blond,
      sign: 'How much of a circle about the joint the notch holds, from tip to tip.'
    },
    {
      key: 'step',
      name: 'Step from ulna to radius',
      unit: 'mm',
      power: 1,
      needs: [...arc, 'side.radius'],
      of: (at) => {
        const { center, radius } = notch(at);
        return distance(center, at('side.radius')) - radius;
      },
      source: blond,
      sign: 'Above 0 the radius stands off the circle of the notch, away from the joint: it is the shorter one.',
      mind: 'An elbow turned about its length or pressed on shows steps that are none: compare with the other side.'
    }
  ]
};
