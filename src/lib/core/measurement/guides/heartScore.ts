import type { Point } from '../../raster/orientation';
import { distance } from '../geometry';
import { type Formula, type Guide, type Source, landmark, optional } from './guide';

type At = (key: string) => Point;

const buchanan = {
  author: 'Buchanan and Bucheler',
  year: 1995,
  title: 'Vertebral scale system to measure canine heart size in radiographs'
};

/** Front edges of vertebrae from T4 backwards: as many are placed as the heart is long. */
const scaleEdges = [...Array.from({ length: 10 }, (_, i) => `T${i + 4} front`), 'L1 front'];
const leastEdges = 4;

const placedEdges = (at: (key: string) => Point | undefined): string[] => {
  const missing = scaleEdges.findIndex((key) => !at(`side.${key}`));
  return (missing < 0 ? scaleEdges : scaleEdges.slice(0, missing)).map((key) => `side.${key}`);
};

/** A length laid along the vertebrae from the front edge of T4, in vertebrae, to a tenth and finer. NaN beyond the last. */
function inVertebrae(at: At, edges: readonly string[], length: number): number {
  let gone = 0;
  for (let i = 1; i < edges.length; i++) {
    const step = distance(at(edges[i - 1]), at(edges[i]));
    if (gone + step >= length) return i - 1 + (length - gone) / step;
    gone += step;
  }
  return NaN;
}

const long = ['side.carina', 'side.apex'];
const short = ['side.heart front', 'side.heart back'];

const litster = {
  author: 'Litster and Buchanan',
  year: 2000,
  title: 'Vertebral scale system to measure heart size in radiographs of cats',
  fromMemory: true as const
};

/** Heart size against the vertebrae above it. */
const heartOf = (key: string, name: string, source: Source, normal: Formula['normal'] & object): Guide => ({
  key,
  version: 1,
  name,
  trade: 'animals',
  views: [
    {
      key: 'side',
      name: 'Chest from the side',
      lines: [
        ['carina', 'apex'],
        ['heart front', 'heart back']
      ],
      landmarks: [
        landmark(
          'carina',
          'Fork of the windpipe',
          'Lower edge of the round shadow where the windpipe divides',
          0.42,
          0.42
        ),
        landmark('apex', 'Tip of the heart', 'The lowest point of the heart’s outline', 0.5, 0.8),
        landmark(
          'heart front',
          'Front of the heart',
          'Where the widest line square to the first meets the front edge',
          0.3,
          0.6
        ),
        landmark('heart back', 'Back of the heart', 'Where the same line meets the back edge', 0.56, 0.55),
        ...scaleEdges.map((key, i) => {
          const [name] = key.split(' ');
          const place = landmark(
            key,
            `${name}, front edge`,
            `Front end of the lower edge of ${name}’s body`,
            0.3 + 0.06 * i,
            0.14
          );
          return i < leastEdges ? place : optional(place);
        })
      ]
    }
  ],
  formulas: [],
  further: (placed) => {
    const edges = placedEdges(placed);
    if (edges.length < leastEdges) return [];
    const score: Formula = {
      key: 'score',
      name: 'Vertebral heart score',
      unit: '',
      power: 0,
      needs: [...long, ...short, ...edges],
      of: (at) =>
        inVertebrae(at, edges, distance(at(long[0]), at(long[1]))) +
        inVertebrae(at, edges, distance(at(short[0]), at(short[1]))),
      source,
      normal,
      sign: 'Long and short axis of the heart, each in vertebrae from T4 on, added up. Breeds differ.',
      mind: 'As many vertebrae as the heart is long have to be placed; with fewer there is no score.'
    };
    return [score];
  }
});

export const heartScore = heartOf('heart-score', 'Heart size against vertebrae (VHS)', buchanan, {
  low: 8.5,
  high: 10.5,
  source: buchanan
});
export const heartOfCats = heartOf('heart-score-cat', 'Heart size of a cat (VHS)', litster, {
  low: 6.7,
  high: 8.1,
  source: litster
});
