import { distance } from '../geometry';
import { type Guide, landmark } from './guide';

const insall = {
  author: 'Insall and Salvati',
  year: 1971,
  title: 'Patella position in the normal knee joint',
  fromMemory: true as const
};
const caton = {
  author: 'Caton, Deschamps, Chambat and others',
  year: 1982,
  title: 'Les rotules basses',
  fromMemory: true as const
};

/** Height of the knee cap, by its tendon and by its joint surface. */
export const kneeCap: Guide = {
  key: 'knee-cap',
  version: 1,
  name: 'Height of the knee cap',
  trade: 'bones',
  views: [
    {
      key: 'side',
      name: 'Knee from the side, slightly bent',
      lines: [
        ['upper pole', 'lower pole'],
        ['lower pole', 'tubercle'],
        ['surface upper', 'surface lower'],
        ['surface lower', 'plateau front']
      ],
      landmarks: [
        landmark('upper pole', 'Knee cap, upper end', 'The uppermost point of the knee cap', 0.24, 0.24),
        landmark('lower pole', 'Knee cap, lower end', 'The lowest point of the knee cap', 0.22, 0.46),
        landmark(
          'tubercle',
          'Bump of the shin bone',
          'Where the tendon ends on the front of the shin bone',
          0.36,
          0.72
        ),
        landmark(
          'surface upper',
          'Joint surface, upper end',
          'Upper end of the knee cap’s joint surface',
          0.3,
          0.27
        ),
        landmark(
          'surface lower',
          'Joint surface, lower end',
          'Lower end of the knee cap’s joint surface',
          0.29,
          0.42
        ),
        landmark(
          'plateau front',
          'Plateau, front corner',
          'The front upper corner of the shin bone’s joint surface',
          0.4,
          0.57
        )
      ]
    }
  ],
  formulas: [
    {
      key: 'tendon ratio',
      name: 'Tendon to knee cap (Insall-Salvati)',
      unit: '',
      power: 0,
      needs: ['side.upper pole', 'side.lower pole', 'side.tubercle'],
      of: (at) =>
        distance(at('side.lower pole'), at('side.tubercle')) /
        distance(at('side.upper pole'), at('side.lower pole')),
      source: insall,
      normal: { low: 0.8, high: 1.2, source: insall },
      mind: 'A knee cap with a long lower tip makes it small whatever its height.'
    },
    {
      key: 'surface ratio',
      name: 'Joint surface to plateau (Caton-Deschamps)',
      unit: '',
      power: 0,
      needs: ['side.surface upper', 'side.surface lower', 'side.plateau front'],
      of: (at) =>
        distance(at('side.surface lower'), at('side.plateau front')) /
        distance(at('side.surface upper'), at('side.surface lower')),
      source: caton,
      normal: { low: 0.6, high: 1.3, source: caton }
    }
  ]
};
