import { distance } from '../geometry';
import { type Formula, type Guide, landmark, optional } from './guide';

const esposito = {
  author: 'Esposito, Ekestubbe and Gröndahl',
  year: 1993,
  title: 'Radiological evaluation of marginal bone loss at tooth surfaces facing single Brånemark implants',
  fromMemory: true as const
};
const misch = {
  author: 'Misch',
  year: 1987,
  title: 'Maxillary sinus augmentation for endosteal implants: organized alternative treatment plans',
  fromMemory: true as const
};

const levels = { contact: 'at the crowns', neck: 'at the crest', root: 'between the roots' } as const;
type Level = keyof typeof levels;
const width = (level: Level): Formula => ({
  key: level,
  name: `Width ${levels[level]}`,
  unit: 'mm',
  power: 1,
  needs: [`site.mesial ${level}`, `site.distal ${level}`],
  of: (at) => distance(at(`site.mesial ${level}`), at(`site.distal ${level}`)),
  source: esposito
});
const bony: Level[] = ['neck', 'root'];

/** Room for an implant between two teeth. */
export const implantSite: Guide = {
  key: 'implant-site',
  version: 1,
  name: 'Room for an implant',
  trade: 'teeth',
  views: [
    {
      key: 'site',
      name: 'Periapical view of the gap',
      lines: [
        ['mesial contact', 'distal contact'],
        ['mesial neck', 'distal neck'],
        ['mesial root', 'distal root']
      ],
      landmarks: [
        optional(
          landmark(
            'mesial contact',
            'Crown, mesial',
            'Widest point of the crown towards the midline, facing the gap',
            0.32,
            0.17
          )
        ),
        optional(
          landmark(
            'distal contact',
            'Crown, distal',
            'Widest point of the crown on the far side, facing the gap',
            0.68,
            0.17
          )
        ),
        landmark(
          'mesial neck',
          'Root at the crest, mesial',
          'Where the bone’s crest meets the root towards the midline',
          0.285,
          0.36
        ),
        landmark(
          'distal neck',
          'Root at the crest, distal',
          'Where the bone’s crest meets the root on the far side',
          0.715,
          0.36
        ),
        landmark(
          'mesial root',
          'Nearest of the root, mesial',
          'Where this root comes nearest to the other, as deep as the implant goes',
          0.265,
          0.6
        ),
        landmark(
          'distal root',
          'Nearest of the root, distal',
          'Where this root comes nearest to the other, at the same depth',
          0.735,
          0.6
        )
      ]
    }
  ],
  formulas: [
    width('contact'),
    width('neck'),
    width('root'),
    {
      key: 'narrowest',
      name: 'Narrowest width in bone',
      unit: 'mm',
      power: 1,
      needs: bony.flatMap((level) => [`site.mesial ${level}`, `site.distal ${level}`]),
      of: (at) => Math.min(...bony.map((level) => width(level).of(at))),
      source: esposito,
      mind: 'One and a half millimetres are left to each neighbour: an implant is at least 3 mm thinner than this.'
    }
  ]
};

/** Bone between the ridge and the floor of the sinus. */
export const sinusHeight: Guide = {
  key: 'sinus-height',
  version: 1,
  name: 'Bone below the sinus',
  trade: 'teeth',
  views: [
    {
      key: 'site',
      name: 'Upper back teeth, periapical or panoramic view',
      lines: [['crest', 'floor']],
      landmarks: [
        landmark(
          'crest',
          'Crest of the ridge',
          'The lowest edge of the bone where the implant would enter',
          0.5,
          0.78
        ),
        landmark(
          'floor',
          'Floor of the sinus',
          'The white line above it, along the way the implant would go',
          0.5,
          0.42
        )
      ]
    }
  ],
  formulas: [
    {
      key: 'height',
      name: 'Height of the bone',
      unit: 'mm',
      power: 1,
      needs: ['site.crest', 'site.floor'],
      of: (at) => distance(at('site.crest'), at('site.floor')),
      source: misch,
      stages: {
        upTo: [
          { value: 5, name: 'less than 5 mm' },
          { value: 10, name: '5 to 10 mm' },
          { value: 12, name: '10 to 12 mm' }
        ],
        beyond: 'more than 12 mm',
        source: misch
      },
      mind: 'A panoramic view enlarges upright lengths by a fifth and more: scale it by something that lies there.'
    }
  ]
};
