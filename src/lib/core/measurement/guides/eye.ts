import { distance } from '../geometry';
import { type Guide, landmark } from './guide';

const rufer = {
  author: 'Rufer, Schroder and Erb',
  year: 2005,
  title: 'White-to-white corneal diameter: normal values in healthy humans'
};

/** Horizontal width of the iris as seen, and the pupil, from a photograph of an eye that looks straight ahead. */
export const eyeWidths: Guide = {
  key: 'eye-widths',
  version: 1,
  name: 'Iris and pupil width',
  trade: 'eyes',
  views: [
    {
      key: 'eye',
      name: 'Eye from the front, looking at the camera',
      finds: 'limbus and pupil',
      lines: [
        ['limbus left', 'limbus right'],
        ['pupil left', 'pupil right']
      ],
      landmarks: [
        landmark(
          'limbus left',
          'Iris edge, left in the picture',
          'Where white turns to iris, at mid height',
          0.2,
          0.5
        ),
        landmark(
          'limbus right',
          'Iris edge, right in the picture',
          'Where iris turns to white, at mid height',
          0.8,
          0.5
        ),
        landmark('pupil left', 'Pupil edge, left in the picture', 'Where iris turns to black', 0.4, 0.5),
        landmark('pupil right', 'Pupil edge, right in the picture', 'Where black turns to iris', 0.6, 0.5)
      ]
    }
  ],
  formulas: [
    {
      key: 'hvid',
      name: 'Horizontal visible iris diameter (HVID)',
      unit: 'mm',
      power: 1,
      needs: ['eye.limbus left', 'eye.limbus right'],
      of: (at) => distance(at('eye.limbus left'), at('eye.limbus right')),
      source: rufer,
      normal: { low: 10.7, high: 12.6, source: rufer },
      mind: 'The edge of the iris is not sharp: half a millimetre between two people is usual.'
    },
    {
      key: 'pupil',
      name: 'Pupil diameter as seen',
      unit: 'mm',
      power: 1,
      needs: ['eye.pupil left', 'eye.pupil right'],
      of: (at) => distance(at('eye.pupil left'), at('eye.pupil right')),
      source: rufer,
      mind: 'Seen through the cornea the pupil looks about an eighth larger than it is, and light changes it.'
    }
  ]
};
