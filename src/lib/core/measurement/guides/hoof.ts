import type { Point } from '../../raster/orientation';
import { alongLine, offLine } from '../geometry';
import { type Formula, type Guide, landmark, optional } from './guide';

const eliashar = {
  author: 'Eliashar, McGuigan and Wilson',
  year: 2004,
  title:
    'Relationship of foot conformation and force applied to the navicular bone of sound horses at the trot',
  fromMemory: true as const
};
const stick = {
  author: 'Stick, Jann, Scott and Robinson',
  year: 1982,
  title: 'Pedal bone rotation as a prognostic sign in laminitis of horses',
  fromMemory: true as const
};
const cripps = {
  author: 'Cripps and Eustace',
  year: 1999,
  title: 'Radiological measurements from the feet of normal horses with relevance to laminitis',
  fromMemory: true as const
};

type At = Parameters<Formula['of']>[0];
const ground = ['side.ground front', 'side.ground back', 'side.wall upper'];

/** Coordinates over the ground, whichever way the horse looks: backwards along it, and up from it. */
function overGround(at: At): (key: string) => Point {
  const [front, back] = [at('side.ground front'), at('side.ground back')];
  const up = Math.sign(offLine(at('side.wall upper'), front, back));
  return (key) => ({ x: alongLine(at(key), front, back), y: up * offLine(at(key), front, back) });
}
/** How steep the way from a lower front landmark to an upper back one is, over the ground. */
function slopeDeg(at: At, from: string, to: string): number {
  const on = overGround(at);
  const [a, b] = [on(`side.${from}`), on(`side.${to}`)];
  return (Math.atan2(b.y - a.y, b.x - a.x) * 180) / Math.PI;
}
const hoofDeg = (at: At) => {
  const deg = slopeDeg(at, 'wall toe', 'wall upper');
  if (deg > 90) throw new RangeError('the front wall leans forwards: the front of the ground is at its back');
  return deg;
};

/** A horse's hoof and pastern from the side. */
export const hoof: Guide = {
  key: 'hoof',
  version: 1,
  name: 'Hoof and pastern',
  trade: 'animals',
  views: [
    {
      key: 'side',
      name: 'Foot from the side, on a block',
      lines: [
        ['ground front', 'ground back'],
        ['wall toe', 'wall upper'],
        ['coffin tip', 'coffin front'],
        ['coffin tip', 'coffin back'],
        ['pastern lower', 'pastern upper']
      ],
      landmarks: [
        landmark('ground front', 'Ground, front', 'Where the hoof stands, under the toe', 0.16, 0.925),
        landmark('ground back', 'Ground, back', 'Where the hoof stands, under the heel', 0.74, 0.925),
        landmark(
          'wall upper',
          'Front wall, top',
          'Front of the hoof wall, straight under the hairline',
          0.31,
          0.565
        ),
        landmark(
          'wall toe',
          'Front wall, low',
          'Front of the hoof wall, above where the toe is rounded',
          0.15,
          0.86
        ),
        landmark(
          'coffin front',
          'Coffin bone, top of its front',
          'The peak at the upper front of the coffin bone',
          0.4,
          0.56
        ),
        landmark(
          'coffin tip',
          'Coffin bone, tip',
          'The foremost lower point of the coffin bone',
          0.235,
          0.835
        ),
        landmark('coffin back', 'Coffin bone, back', 'The rearmost point of its lower edge', 0.64, 0.795),
        optional(
          landmark(
            'pastern lower',
            'Long pastern, lower end',
            'Middle of the lower joint surface of the long pastern bone',
            0.545,
            0.33
          )
        ),
        optional(
          landmark(
            'pastern upper',
            'Long pastern, upper end',
            'Middle of the upper joint surface of the long pastern bone',
            0.71,
            0.06
          )
        )
      ]
    }
  ],
  formulas: [
    {
      key: 'hoof angle',
      name: 'Front wall over the ground',
      unit: 'deg',
      power: 0,
      needs: [...ground, 'side.wall toe'],
      of: hoofDeg,
      source: eliashar
    },
    {
      key: 'palmar angle',
      name: 'Palmar angle',
      unit: 'deg',
      power: 0,
      needs: [...ground, 'side.coffin tip', 'side.coffin back'],
      of: (at) => slopeDeg(at, 'coffin tip', 'coffin back'),
      source: eliashar,
      sign: 'Above 0 the back of the coffin bone is higher than its tip.'
    },
    {
      key: 'rotation',
      name: 'Coffin bone turned off the wall',
      unit: 'deg',
      power: 0,
      needs: [...ground, 'side.wall toe', 'side.coffin tip', 'side.coffin front'],
      of: (at) => slopeDeg(at, 'coffin tip', 'coffin front') - hoofDeg(at),
      source: stick,
      sign: 'Above 0 its tip has turned away from the wall, downwards; 0 is side by side.'
    },
    {
      key: 'pastern axis',
      name: 'Pastern against the front wall',
      unit: 'deg',
      power: 0,
      needs: [...ground, 'side.wall toe', 'side.pastern lower', 'side.pastern upper'],
      of: (at) => slopeDeg(at, 'pastern lower', 'pastern upper') - hoofDeg(at),
      source: eliashar,
      sign: '0 is a straight axis; above 0 the pastern is steeper than the wall (broken back), below 0 flatter.',
      mind: 'The horse has to stand square, with its weight on the foot.'
    },
    {
      key: 'founder distance',
      name: 'Hairline over the coffin bone',
      unit: 'mm',
      power: 1,
      needs: [...ground, 'side.coffin front'],
      of: (at) => {
        const on = overGround(at);
        return on('side.wall upper').y - on('side.coffin front').y;
      },
      source: cripps,
      sign: 'How far the peak of the coffin bone lies below the top of the wall.'
    }
  ]
};
