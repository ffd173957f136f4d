import { distance } from '../geometry';
import { type Guide, landmark } from './guide';

const fossum = {
  author: 'Fossum, Boudrieau and Hobson',
  year: 1989,
  title: 'Pectus excavatum in eight dogs and six cats',
  fromMemory: true as const
};

/** How deep a cat's chest is against its width and its vertebra, at the tenth vertebra. */
export const chestShape: Guide = {
  key: 'chest-shape',
  version: 1,
  name: 'Shape of a cat’s chest',
  trade: 'animals',
  views: [
    {
      key: 'side',
      name: 'Chest from the side',
      lines: [
        ['T10 middle', 'sternum'],
        ['T10 upper', 'T10 lower']
      ],
      landmarks: [
        landmark(
          'T10 middle',
          'T10',
          'Middle of the lower edge of T10’s body, or of the vertebra over the dent',
          0.565,
          0.145
        ),
        landmark('sternum', 'Breast bone', 'Nearest point of the breast bone’s upper edge', 0.54, 0.89),
        landmark('T10 upper', 'T10, upper edge', 'Upper edge of the same body, at its middle', 0.565, 0.075),
        landmark('T10 lower', 'T10, lower edge', 'Lower edge of the same body, at its middle', 0.565, 0.135)
      ]
    },
    {
      key: 'above',
      name: 'Chest from above or below',
      lines: [['wall right', 'wall left']],
      landmarks: [
        landmark('wall right', 'Chest wall, right', 'Inner edge of the ribs at the height of T10', 0.17, 0.6),
        landmark('wall left', 'Chest wall, left', 'Inner edge of the ribs at the height of T10', 0.83, 0.6)
      ]
    }
  ],
  formulas: [
    {
      key: 'frontosagittal',
      name: 'Width over depth (frontosagittal index)',
      unit: '',
      power: 0,
      compares: true,
      needs: ['above.wall right', 'above.wall left', 'side.T10 middle', 'side.sternum'],
      of: (at) =>
        distance(at('above.wall right'), at('above.wall left')) /
        distance(at('side.T10 middle'), at('side.sternum')),
      source: fossum,
      normal: { low: 0.7, high: 1.3, source: fossum },
      sign: 'Large where the breast bone is drawn in.'
    },
    {
      key: 'vertebral',
      name: 'Depth in vertebrae (vertebral index)',
      unit: '',
      power: 0,
      needs: ['side.T10 middle', 'side.sternum', 'side.T10 upper', 'side.T10 lower'],
      of: (at) =>
        distance(at('side.T10 middle'), at('side.sternum')) /
        distance(at('side.T10 upper'), at('side.T10 lower')),
      source: fossum,
      normal: { low: 12.6, high: 18.8, source: fossum },
      sign: 'Small where the breast bone is drawn in.'
    }
  ]
};
