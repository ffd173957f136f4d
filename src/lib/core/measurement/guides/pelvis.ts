import type { Point } from '../../raster/orientation';
import { angleAtDeg, distance, middleOf, turnDeg } from '../geometry';
import { type Guide, landmark, optional } from './guide';

const legaye = {
  author: 'Legaye, Duval-Beaupere, Hecquet and Marty',
  year: 1998,
  title:
    'Pelvic incidence: a fundamental pelvic parameter for three-dimensional regulation of spinal sagittal curves'
};
const vialle = {
  author: 'Vialle, Levassor, Rillardon and others',
  year: 2005,
  title: 'Radiographic analysis of the sagittal alignment and balance of the spine in asymptomatic subjects'
};
const schwab = {
  author: 'Schwab, Ungar, Blondel and others',
  year: 2012,
  title: 'Scoliosis Research Society-Schwab adult spinal deformity classification',
  fromMemory: true as const
};

type At = (key: string) => Point;
const hips = ['side.hip 1', 'side.hip 2'];
const plate = ['side.S1 front', 'side.S1 back'];
const hipAxis = (at: At) => middleOf(at(hips[0]), at(hips[1]));
const plateMiddle = (at: At) => middleOf(at(plate[0]), at(plate[1]));

/**
 * 1 when the patient looks to the left of the picture, else -1. Both the plate (its front end is in front) and the hips
 * (in front of the sacrum) tell it. A very steep plate, or hips right below it, tell it badly: the clearer of the two counts.
 */
function looking(at: At): 1 | -1 {
  const [front, back] = [at(plate[0]), at(plate[1])];
  const [middle, axis] = [plateMiddle(at), hipAxis(at)];
  const byPlate = (back.x - front.x) / distance(front, back);
  const byHips = (middle.x - axis.x) / distance(middle, axis);
  return (Math.abs(byPlate) >= Math.abs(byHips) ? byPlate : byHips) >= 0 ? 1 : -1;
}

/** Square to S1's endplate, into the sacrum: downwards unless the plate is steeper than upright. */
function below(at: At): Point {
  const [front, back] = [at(plate[0]), at(plate[1])];
  const way = looking(at);
  return { x: -way * (back.y - front.y), y: way * (back.x - front.x) };
}

/** Pelvis and trunk from the side: incidence, tilt and slope, and how far C7 stands before the sacrum. */
export const pelvisSide: Guide = {
  key: 'pelvis-side',
  version: 1,
  name: 'Pelvis and trunk from the side',
  trade: 'bones',
  views: [
    {
      key: 'side',
      name: 'Spine and pelvis, standing, from the side',
      lines: [
        ['S1 front', 'S1 back'],
        ['hip 1', 'hip 2']
      ],
      sharpens: ['hip 1', 'hip 2'].map((key) => ({ kind: 'round' as const, landmark: key })),
      landmarks: [
        landmark('hip 1', 'Hip, one', 'Middle of one round head of a thigh bone', 0.4, 0.92),
        landmark(
          'hip 2',
          'Hip, the other',
          'Middle of the other; the same point again where they lie over each other',
          0.45,
          0.93
        ),
        landmark('S1 front', 'Sacrum, front', 'Front end of the upper surface of S1', 0.48, 0.76),
        landmark('S1 back', 'Sacrum, back', 'Back end of the upper surface of S1', 0.6, 0.72),
        optional(landmark('C7', 'C7', 'Middle of the body of C7', 0.46, 0.08))
      ]
    }
  ],
  formulas: [
    {
      key: 'incidence',
      name: 'Pelvic incidence',
      unit: 'deg',
      power: 0,
      needs: [...hips, ...plate],
      of: (at) => {
        const middle = plateMiddle(at);
        const axis = hipAxis(at);
        const toHips = { x: axis.x - middle.x, y: axis.y - middle.y };
        return looking(at) * turnDeg(below(at), toHips);
      },
      source: legaye,
      normal: { low: 34, high: 76, source: vialle },
      sign: 'The same in every posture: tilt and slope added up.'
    },
    {
      key: 'tilt',
      name: 'Pelvic tilt',
      unit: 'deg',
      power: 0,
      needs: [...hips, ...plate],
      of: (at) => {
        const middle = plateMiddle(at);
        const axis = hipAxis(at);
        return looking(at) * turnDeg({ x: 0, y: 1 }, { x: axis.x - middle.x, y: axis.y - middle.y });
      },
      source: legaye,
      normal: { low: 1, high: 25, source: vialle },
      sign: 'Above 0 the hips stand before the sacrum.'
    },
    {
      key: 'slope',
      name: 'Sacral slope',
      unit: 'deg',
      power: 0,
      needs: [...hips, ...plate],
      of: (at) => {
        const [front, back] = [at(plate[0]), at(plate[1])];
        const angle = angleAtDeg(
          { x: back.x - front.x, y: back.y - front.y },
          { x: 0, y: 0 },
          { x: looking(at), y: 0 }
        );
        return front.y >= back.y ? angle : -angle;
      },
      source: legaye,
      normal: { low: 24, high: 58, source: vialle }
    },
    {
      key: 'sva',
      name: 'C7 before the sacrum (SVA)',
      unit: 'mm',
      power: 1,
      needs: ['side.C7', ...hips, ...plate],
      of: (at) => looking(at) * (at(plate[1]).x - at('side.C7').x),
      source: schwab,
      normal: { low: null, high: 40, source: schwab },
      sign: 'Above 0 C7 stands before the back corner of S1. The picture’s rows are taken to be level.'
    }
  ]
};
