import { angleAtDeg, between, distance, middleOf, turnDeg } from '../geometry';
import { type Guide, landmark } from './guide';

const mostafa = {
  author: 'Mostafa, Griffon, Thomas and Constable',
  year: 2008,
  title:
    'Proximodistal alignment of the canine patella: radiographic evaluation and association with medial and lateral patellar luxation',
  fromMemory: true as const
};
const dudley = {
  author: 'Dudley, Kowaleski, Drost and Dyce',
  year: 2006,
  title: 'Radiographic and computed tomographic determination of femoral varus and torsion in the dog',
  fromMemory: true as const
};

/** How high a dog's knee cap stands, and how its thigh bone leads it. */
export const kneeCapOfDogs: Guide = {
  key: 'knee-cap-dog',
  version: 1,
  name: 'Alignment of the knee cap',
  trade: 'animals',
  views: [
    {
      key: 'side',
      name: 'Stifle from the side',
      lines: [
        ['patella upper', 'patella lower'],
        ['patella lower', 'tuberosity']
      ],
      landmarks: [
        landmark('patella upper', 'Knee cap, upper end', 'The uppermost point of the knee cap', 0.225, 0.095),
        landmark('patella lower', 'Knee cap, lower end', 'The lowest point of the knee cap', 0.255, 0.215),
        landmark(
          'tuberosity',
          'Tuberosity of the shin bone',
          'Where the ligament of the knee cap ends on the shin bone',
          0.325,
          0.36
        )
      ]
    },
    {
      key: 'front',
      name: 'Thigh bone from the front',
      lines: [
        ['shaft upper', 'shaft lower'],
        ['condyle outer', 'condyle inner']
      ],
      landmarks: [
        landmark(
          'shaft upper',
          'Shaft, a third down',
          'Middle of the shaft a third of the way down',
          0.5,
          0.36
        ),
        landmark(
          'shaft lower',
          'Shaft, half way down',
          'Middle of the shaft half of the way down',
          0.5,
          0.52
        ),
        landmark(
          'condyle outer',
          'Outer condyle',
          'Lowest point of the condyle away from the other leg',
          0.4,
          0.945
        ),
        landmark(
          'condyle inner',
          'Inner condyle',
          'Lowest point of the condyle towards the other leg',
          0.6,
          0.945
        )
      ]
    }
  ],
  formulas: [
    {
      key: 'ratio',
      name: 'Ligament over knee cap',
      unit: '',
      power: 0,
      needs: ['side.patella upper', 'side.patella lower', 'side.tuberosity'],
      of: (at) =>
        distance(at('side.patella lower'), at('side.tuberosity')) /
        distance(at('side.patella upper'), at('side.patella lower')),
      source: mostafa,
      normal: { low: 1.45, high: 1.97, source: mostafa },
      sign: 'A large ratio is a knee cap that stands high.',
      mind: 'Breeds differ, and a stifle that is much bent or stretched changes it.'
    },
    {
      key: 'outer angle',
      name: 'Outer angle of the thigh bone (aLDFA)',
      unit: 'deg',
      power: 0,
      needs: ['front.shaft upper', 'front.shaft lower', 'front.condyle outer', 'front.condyle inner'],
      of: (at) => {
        const [outer, inner] = [at('front.condyle outer'), at('front.condyle inner')];
        const axis = between(at('front.shaft lower'), at('front.shaft upper'));
        if (Math.abs(turnDeg(axis, between(at('front.shaft lower'), middleOf(outer, inner)))) < 90)
          throw new RangeError(
            'the condyles lie on the same side as the upper shaft: upper and lower are swapped'
          );
        const from = middleOf(outer, inner);
        return angleAtDeg(outer, from, { x: from.x + axis.x, y: from.y + axis.y });
      },
      source: dudley,
      sign: 'Above about 94° the thigh bone bows outwards (varus).',
      mind: 'A thigh bone that does not lie flat on the detector looks more bowed than it is.'
    }
  ]
};
