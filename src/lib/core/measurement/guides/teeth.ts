import { alongLine, between, pathLength, smoothPath } from '../geometry';
import { type Guide, landmark, optional } from './guide';

const canal = ['reference', 'canal 1', 'canal 2', 'canal 3', 'apex'];
const canalLength = (keys: string[]) => (at: (key: string) => { x: number; y: number }) =>
  pathLength(smoothPath(keys.map((key) => at(`tooth.${key}`))));

const ingle = {
  author: 'Ingle',
  year: 1957,
  title: 'Endodontic instruments and instrumentation'
};

/** Root-canal length: along the canal from a point on the crown to the apex as imaged. */
export const workingLength: Guide = {
  key: 'working-length',
  version: 1,
  name: 'Root-canal working length',
  trade: 'teeth',
  views: [
    {
      key: 'tooth',
      name: 'Periapical view of the tooth',
      lines: [
        ['reference', 'canal 1'],
        ['canal 1', 'canal 2'],
        ['canal 2', 'canal 3'],
        ['canal 3', 'apex']
      ],
      sharpens: [{ kind: 'root', above: ['canal 1'], tip: 'apex', along: ['canal 2', 'canal 3'] }],
      landmarks: [
        landmark(
          'reference',
          'Reference point',
          'The cusp or edge that the stop of the file rests on',
          0.45,
          0.08
        ),
        landmark('canal 1', 'Entrance of the canal', 'Where the canal leaves the pulp chamber', 0.46, 0.36),
        optional(
          landmark('canal 2', 'Middle of the canal', 'Middle of its dark line, half way down', 0.44, 0.58)
        ),
        optional(
          landmark('canal 3', 'Last third', 'Middle of its dark line, where it bends last', 0.42, 0.76)
        ),
        landmark('apex', 'Apex as imaged', 'The lowest point of the root’s outline', 0.4, 0.92)
      ]
    }
  ],
  formulas: [],
  further: (at) => {
    const keys = canal.filter(
      (key) => at(`tooth.${key}`) || key === 'reference' || key === 'canal 1' || key === 'apex'
    );
    const needs = keys.map((key) => `tooth.${key}`);
    const mind =
      'This is the whole way to the apex; the file is usually stopped about a millimetre short of it. Along the ray nothing is seen: a canal that bends towards or away from the sensor is longer than this.';
    return [
      {
        key: 'length',
        name: 'Tooth length along the canal',
        unit: 'mm',
        power: 1,
        needs,
        of: canalLength(keys),
        source: ingle,
        mind
      }
    ];
  }
};

const schei = {
  author: 'Schei, Waerhaug, Lovdal and Arno',
  year: 1959,
  title: 'Alveolar bone loss as related to oral hygiene and age'
};
const tonetti = {
  author: 'Tonetti, Greenwell and Kornman',
  year: 2018,
  title: 'Staging and grading of periodontitis',
  fromMemory: true as const
};

const bone = (side: 'mesial' | 'distal') => ({
  key: `${side} loss`,
  name: `Bone level ${side === 'mesial' ? 'mesially' : 'distally'}, share of root length`,
  unit: '%' as const,
  power: 0 as const,
  needs: [`tooth.${side} junction`, `tooth.${side} crest`, 'tooth.apex'],
  of: (at: (key: string) => { x: number; y: number }) => {
    const [junction, crest, apex] = [
      at(`tooth.${side} junction`),
      at(`tooth.${side} crest`),
      at('tooth.apex')
    ];
    const root = between(junction, apex);
    return (100 * alongLine(crest, junction, apex)) / Math.hypot(root.x, root.y);
  },
  source: schei,
  stages: {
    upTo: [
      { value: 15, name: 'as in stage I: up to 15 %' },
      { value: 33, name: 'as in stage II: 15 to 33 %' }
    ],
    beyond: 'as in stages III and IV: beyond 33 %',
    source: tonetti
  },
  sign: 'From the enamel’s edge towards the apex. A healthy crest lies a millimetre or two below the enamel, so a small share is no loss.',
  mind: 'A beam that is not square to the tooth changes both lengths alike, but not where bone hides behind bone.'
});

/** Crestal bone level as a share of the root's length, on both sides of a tooth. */
export const crestalBone: Guide = {
  key: 'crestal-bone',
  version: 1,
  name: 'Crestal bone level',
  trade: 'teeth',
  views: [
    {
      key: 'tooth',
      name: 'Periapical or bitewing view of the tooth',
      lines: [
        ['mesial junction', 'apex'],
        ['distal junction', 'apex']
      ],
      sharpens: [{ kind: 'root', above: ['mesial junction', 'distal junction'], tip: 'apex' }],
      landmarks: [
        landmark(
          'mesial junction',
          'Enamel’s edge, mesial',
          'Where the enamel ends on the side towards the midline',
          0.36,
          0.3
        ),
        landmark(
          'mesial crest',
          'Bone crest, mesial',
          'Where the dark line beside the root begins, same side',
          0.33,
          0.4
        ),
        landmark(
          'distal junction',
          'Enamel’s edge, distal',
          'Where the enamel ends on the far side',
          0.64,
          0.3
        ),
        landmark(
          'distal crest',
          'Bone crest, distal',
          'Where the dark line beside the root begins, far side',
          0.67,
          0.4
        ),
        landmark('apex', 'Apex', 'The lowest point of the root’s outline', 0.5, 0.92)
      ]
    }
  ],
  formulas: [bone('mesial'), bone('distal')]
};
