import { alongLine, distance } from '../geometry';
import { type Formula, type Guide, landmark } from './guide';

const pitts = {
  author: 'Pitts',
  year: 1984,
  title: 'Regression of approximal carious lesions diagnosed from serial standardized bitewing radiographs',
  fromMemory: true as const
};
const ekstrand = {
  author: 'Pitts and Ekstrand',
  year: 2013,
  title:
    'International Caries Detection and Assessment System (ICDAS) and its International Caries Classification and Management System (ICCMS)',
  fromMemory: true as const
};

const [surface, junction, deepest, pulp] = ['surface', 'junction', 'deepest', 'pulp'].map(
  (key) => `tooth.${key}`
);
type At = Parameters<Formula['of']>[0];

/** How far along the way from the surface to the pulp a landmark lies. */
function along(at: At, key: string): number {
  const far = alongLine(at(key), at(surface), at(pulp));
  if (far < 0) throw new RangeError('the lesion lies outside of the tooth: surface and pulp are swapped');
  return far;
}

/** How deep a lesion between two teeth goes, on the straight way from the surface to the pulp. */
export const cariesDepth: Guide = {
  key: 'caries-depth',
  version: 1,
  name: 'Depth of caries',
  trade: 'teeth',
  views: [
    {
      key: 'tooth',
      name: 'Bitewing or periapical view of the tooth',
      lines: [['surface', 'pulp']],
      landmarks: [
        landmark(
          'surface',
          'Surface of the enamel',
          'Where the lesion begins, on the tooth’s outline as it was',
          0.185,
          0.33
        ),
        landmark(
          'junction',
          'Edge of the dentine',
          'Where enamel meets dentine on the way inwards',
          0.275,
          0.345
        ),
        landmark(
          'deepest',
          'Deepest point',
          'Where the dark shadow of the lesion reaches nearest to the pulp',
          0.335,
          0.36
        ),
        landmark('pulp', 'Pulp', 'Where the same straight way meets the wall of the pulp', 0.41, 0.375)
      ]
    }
  ],
  formulas: [
    {
      key: 'share',
      name: 'Depth, share of the way to the pulp',
      unit: '%',
      power: 0,
      needs: [surface, deepest, pulp],
      of: (at) => (100 * along(at, deepest)) / distance(at(surface), at(pulp)),
      source: pitts,
      mind: 'A radiograph shows less than there is: a lesion is a little deeper than its shadow.'
    },
    {
      key: 'dentine share',
      name: 'Depth in dentine, share of its width',
      unit: '%',
      power: 0,
      needs: [surface, junction, deepest, pulp],
      of: (at) => {
        const [edge, end] = [along(at, junction), distance(at(surface), at(pulp))];
        if (edge >= end) throw new RangeError('the edge of the dentine lies beyond the pulp');
        return (100 * (along(at, deepest) - edge)) / (end - edge);
      },
      source: ekstrand,
      stages: {
        upTo: [
          { value: 0, name: 'within the enamel' },
          { value: 100 / 3, name: 'outer third of the dentine' },
          { value: 200 / 3, name: 'middle third of the dentine' }
        ],
        beyond: 'inner third of the dentine',
        source: ekstrand
      },
      sign: 'Below 0 the lesion ends within the enamel.',
      mind: 'A radiograph shows less than there is: a lesion is a little deeper than its shadow.'
    },
    {
      key: 'left',
      name: 'Dentine left over the pulp',
      unit: 'mm',
      power: 1,
      needs: [surface, deepest, pulp],
      of: (at) => distance(at(surface), at(pulp)) - along(at, deepest),
      source: pitts,
      sign: 'Below 0 the shadow reaches over the pulp.',
      mind: 'Where tooth and beam are not square to one another, shadows lie over each other.'
    }
  ]
};
