import { between, turnDeg } from '../geometry';
import { type Guide, landmark, optional } from './guide';

const slocum = {
  author: 'Slocum and Slocum',
  year: 1993,
  title: 'Tibial plateau leveling osteotomy for repair of cranial cruciate ligament rupture in the canine'
};
const reif = {
  author: 'Reif and Probst',
  year: 2003,
  title:
    'Comparison of tibial plateau angles in normal and cranial cruciate deficient stifles of Labrador retrievers'
};

const osmond = {
  author: 'Osmond, Marcellin-Little, Harrysson and Kidd',
  year: 2006,
  title:
    'Morphometric assessment of the proximal portion of the tibia in dogs with and without cranial cruciate ligament rupture',
  fromMemory: true as const
};
const dennler = {
  author: 'Dennler, Kipfer, Tepic, Hassig and Montavon',
  year: 2006,
  title:
    'Inclination of the patellar ligament in relation to flexion angle in stifle joints of dogs without degenerative joint disease',
  fromMemory: true as const
};

/** Tibial plateau angle: slope of the plateau against square to the shin bone's axis. */
export const plateauAngle: Guide = {
  key: 'plateau-angle',
  version: 2,
  name: 'Tibial plateau angle',
  trade: 'animals',
  views: [
    {
      key: 'side',
      name: 'Stifle and ankle from the side',
      lines: [
        ['plateau front', 'plateau back'],
        ['eminence', 'ankle'],
        ['shaft upper', 'shaft lower'],
        ['patella lower', 'tuberosity']
      ],
      sharpens: [
        { kind: 'edge', ends: ['plateau front', 'plateau back'] },
        { kind: 'shaft', ends: ['shaft upper', 'shaft lower'] }
      ],
      landmarks: [
        landmark(
          'plateau front',
          'Plateau, front',
          'Front end of the inner half of the joint surface',
          0.4,
          0.3
        ),
        landmark(
          'plateau back',
          'Plateau, back',
          'Back end of the inner half of the joint surface',
          0.62,
          0.36
        ),
        landmark(
          'eminence',
          'Middle of the eminence',
          'Middle between the two small peaks of the joint surface',
          0.5,
          0.28
        ),
        landmark('ankle', 'Middle of the ankle', 'Middle of the round outline of the ankle bone', 0.55, 0.95),
        optional(
          landmark(
            'shaft upper',
            'Shaft, upper',
            'Middle of the shin bone’s shaft where it begins to be even',
            0.47,
            0.58
          )
        ),
        optional(
          landmark(
            'shaft lower',
            'Shaft, lower',
            'Middle of the shin bone’s shaft before it widens again',
            0.515,
            0.8
          )
        ),
        optional(
          landmark(
            'patella lower',
            'Knee cap, front of its lower end',
            'Where the ligament of the knee cap begins',
            0.245,
            0.215
          )
        ),
        optional(
          landmark(
            'tuberosity',
            'Tuberosity of the shin bone',
            'Where the ligament of the knee cap ends',
            0.325,
            0.36
          )
        )
      ]
    }
  ],
  formulas: [
    {
      key: 'angle',
      name: 'Tibial plateau angle',
      unit: 'deg',
      power: 0,
      needs: ['side.plateau front', 'side.plateau back', 'side.eminence', 'side.ankle'],
      of: (at) =>
        90 -
        Math.abs(
          turnDeg(
            between(at('side.plateau front'), at('side.plateau back')),
            between(at('side.eminence'), at('side.ankle'))
          )
        ),
      source: slocum,
      normal: { low: 18, high: 28, source: reif },
      sign: 'Above 0 the back end of the plateau lies nearer to the ankle; below 0, as after a correction, the front end.',
      mind: 'Condyles that do not lie over each other change it by a degree and more.'
    },
    {
      key: 'anatomical',
      name: 'Plateau against the shaft’s own axis',
      unit: 'deg',
      power: 0,
      needs: ['side.plateau front', 'side.plateau back', 'side.shaft upper', 'side.shaft lower'],
      of: (at) =>
        90 -
        Math.abs(
          turnDeg(
            between(at('side.plateau front'), at('side.plateau back')),
            between(at('side.shaft upper'), at('side.shaft lower'))
          )
        ),
      source: osmond,
      sign: 'The same slope against the middle line of the shaft: larger where the upper shin bone bows backwards.'
    },
    {
      key: 'ligament',
      name: 'Ligament of the knee cap against the plateau',
      unit: 'deg',
      power: 0,
      needs: ['side.plateau front', 'side.plateau back', 'side.patella lower', 'side.tuberosity'],
      of: (at) =>
        Math.abs(
          turnDeg(
            between(at('side.plateau front'), at('side.plateau back')),
            between(at('side.tuberosity'), at('side.patella lower'))
          )
        ),
      source: dennler,
      sign: 'About 90° the joint is pushed neither forwards nor backwards; more, and the shin bone is pushed forwards.',
      mind: 'It changes with how far the stifle is bent: 135° is usual.'
    }
  ]
};
