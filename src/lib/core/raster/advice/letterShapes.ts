import { distanceToSegment } from '../../measurement/geometry';
import type { Point } from '../orientation';

/** A letter's shape on a square grid: how much of each cell is lead, its box stretched to the square. */
export interface LetterShape {
  letter: Letter;
  mirrored: boolean;
  /** How often the letter was turned by a quarter, clockwise. */
  quarterTurns: number;
  /** Width against height of its box. */
  aspect: number;
  cells: Float32Array;
}

export type Letter = keyof typeof strokes;
type Stroke = readonly (readonly [number, number])[];

export const gridSide = 24;

const bowl = (top: number, bottom: number, wide = 0.62): Stroke => {
  const [middle, radius] = [(top + bottom) / 2, (bottom - top) / 2];
  const round = Array.from({ length: 9 }, (_, i): [number, number] => {
    const a = -Math.PI / 2 + (Math.PI * i) / 8;
    return [wide - radius * 0.9 + radius * 0.9 * Math.cos(a), middle + radius * Math.sin(a)];
  });
  return [[0, top], ...round, [0, bottom]];
};

/**
 * Block letters by the middle of their strokes, height 1: the two that say a side, and those that are taken for one of
 * them where the ones beside it are not known.
 */
const strokes = {
  R: [
    [
      [0, 0],
      [0, 1]
    ],
    bowl(0, 0.52),
    [
      [0.3, 0.52],
      [0.66, 1]
    ]
  ],
  L: [
    [
      [0, 0],
      [0, 1],
      [0.55, 1]
    ]
  ],
  B: [
    [
      [0, 0],
      [0, 1]
    ],
    bowl(0, 0.48, 0.56),
    bowl(0.48, 1)
  ],
  P: [
    [
      [0, 0],
      [0, 1]
    ],
    bowl(0, 0.54)
  ],
  K: [
    [
      [0, 0],
      [0, 1]
    ],
    [
      [0.6, 0],
      [0, 0.6]
    ],
    [
      [0.2, 0.4],
      [0.66, 1]
    ]
  ],
  A: [
    [
      [0, 1],
      [0.36, 0],
      [0.72, 1]
    ],
    [
      [0.13, 0.66],
      [0.59, 0.66]
    ]
  ],
  D: [
    [
      [0, 0],
      [0, 1]
    ],
    bowl(0, 1, 0.68)
  ],
  E: [
    [
      [0.55, 0],
      [0, 0],
      [0, 1],
      [0.55, 1]
    ],
    [
      [0, 0.5],
      [0.48, 0.5]
    ]
  ],
  F: [
    [
      [0.55, 0],
      [0, 0],
      [0, 1]
    ],
    [
      [0, 0.5],
      [0.46, 0.5]
    ]
  ],
  H: [
    [
      [0, 0],
      [0, 1]
    ],
    [
      [0.66, 0],
      [0.66, 1]
    ],
    [
      [0, 0.5],
      [0.66, 0.5]
    ]
  ],
  J: [
    [
      [0.45, 0],
      [0.45, 0.75],
      [0.38, 0.94],
      [0.22, 1],
      [0.05, 0.92]
    ]
  ],
  T: [
    [
      [0, 0],
      [0.7, 0]
    ],
    [
      [0.35, 0],
      [0.35, 1]
    ]
  ],
  U: [
    [
      [0, 0],
      [0, 0.7],
      [0.12, 0.93],
      [0.33, 1],
      [0.54, 0.93],
      [0.66, 0.7],
      [0.66, 0]
    ]
  ],
  V: [
    [
      [0, 0],
      [0.36, 1],
      [0.72, 0]
    ]
  ]
} satisfies Record<string, readonly Stroke[]>;

/** What letters with serifs have beside their strokes. */
const serifs: Partial<Record<Letter, readonly Stroke[]>> = {
  R: [
    [
      [-0.14, 0],
      [0.1, 0]
    ],
    [
      [-0.14, 1],
      [0.16, 1]
    ],
    [
      [0.58, 1],
      [0.82, 1]
    ]
  ],
  L: [
    [
      [-0.14, 0],
      [0.16, 0]
    ],
    [
      [-0.14, 1],
      [0.1, 1]
    ],
    [
      [0.55, 1],
      [0.55, 0.76]
    ]
  ],
  P: [
    [
      [-0.14, 0],
      [0.1, 0]
    ],
    [
      [-0.14, 1],
      [0.16, 1]
    ]
  ]
};

/** R and its neighbours with a square bowl, as they are punched or cut. */
const squareBowl = (top: number, bottom: number): Stroke => [
  [0, top],
  [0.54, top],
  [0.62, top + 0.08],
  [0.62, bottom - 0.08],
  [0.54, bottom],
  [0, bottom]
];
const stem: Stroke = [
  [0, 0],
  [0, 1]
];
const square: Partial<Record<Letter, readonly Stroke[]>> = {
  R: [
    stem,
    squareBowl(0, 0.5),
    [
      [0.28, 0.5],
      [0.64, 1]
    ]
  ],
  P: [stem, squareBowl(0, 0.5)],
  B: [stem, squareBowl(0, 0.5), squareBowl(0.5, 1)]
};

/** Letters whose upright strokes are thick and whose level ones are thin, with feet: the strokes of each kind. */
const roman: Partial<Record<Letter, { thick: readonly Stroke[]; thin: readonly Stroke[] }>> = {
  R: {
    thick: [
      stem,
      [
        [0.5, 0.08],
        [0.56, 0.16],
        [0.56, 0.36],
        [0.5, 0.44]
      ],
      [
        [0.36, 0.52],
        [0.62, 0.96]
      ]
    ],
    thin: [
      [
        [-0.18, 0],
        [0.42, 0]
      ],
      [
        [0, 0.52],
        [0.4, 0.52]
      ],
      [
        [-0.18, 1],
        [0.18, 1]
      ],
      [
        [0.56, 1],
        [0.84, 1]
      ]
    ]
  },
  L: {
    thick: [stem],
    thin: [
      [
        [-0.18, 0],
        [0.2, 0]
      ],
      [
        [-0.18, 1],
        [0.64, 1],
        [0.64, 0.66]
      ]
    ]
  },
  P: {
    thick: [
      stem,
      [
        [0.5, 0.08],
        [0.58, 0.18],
        [0.58, 0.36],
        [0.5, 0.46]
      ]
    ],
    thin: [
      [
        [-0.18, 0],
        [0.42, 0]
      ],
      [
        [0, 0.54],
        [0.42, 0.54]
      ],
      [
        [-0.18, 1],
        [0.18, 1]
      ]
    ]
  },
  E: {
    thick: [stem],
    thin: [
      [
        [-0.18, 0],
        [0.6, 0],
        [0.6, 0.26]
      ],
      [
        [0, 0.49],
        [0.36, 0.49]
      ],
      [
        [0.36, 0.36],
        [0.36, 0.62]
      ],
      [
        [-0.18, 1],
        [0.64, 1],
        [0.64, 0.7]
      ]
    ]
  }
};
/** How much of a thick stroke a thin one has. */
const thinShare = 0.4;
const romanThicknesses = [0.2, 0.26];

const thicknesses = [0.13, 0.2, 0.28];
const leansDeg = [-16, -8, 0, 8, 16];
/** Samples along a cell's side, of which its share is told. */
const within = 3;

/** How much of each cell of the grid is inside; told for points in shares of its width and height. */
export function covered(inside: (x: number, y: number) => boolean): Float32Array {
  const cells = new Float32Array(gridSide * gridSide);
  const fine = gridSide * within;
  for (let v = 0; v < fine; v++)
    for (let u = 0; u < fine; u++)
      if (inside((u + 0.5) / fine, (v + 0.5) / fine))
        cells[Math.floor(v / within) * gridSide + Math.floor(u / within)] += 1 / within ** 2;
  return cells;
}

/** A stroke and its share of the letter's thickness. */
interface Inked {
  stroke: Stroke;
  share: number;
}
const inked = (all: readonly Stroke[], share = 1): Inked[] => all.map((stroke) => ({ stroke, share }));

/** One letter of one thickness, leaning, drawn into its own box. */
function drawn(
  all: readonly Inked[],
  thickness: number,
  leanDeg: number
): { aspect: number; cells: Float32Array } {
  const [c, s] = [Math.cos((leanDeg * Math.PI) / 180), Math.sin((leanDeg * Math.PI) / 180)];
  const leaning = ([x, y]: Stroke[number]): Point => ({ x: c * x - s * y, y: s * x + c * y });
  const lines = all.flatMap(({ stroke, share }) =>
    stroke.slice(1).map((end, i) => ({
      a: leaning(stroke[i]),
      b: leaning(end),
      half: (thickness * share) / 2
    }))
  );
  const ends = lines.flatMap(({ a, b, half }) => [a, b].map(({ x, y }) => ({ x, y, half })));
  const [left, right] = [
    Math.min(...ends.map(({ x, half }) => x - half)),
    Math.max(...ends.map(({ x, half }) => x + half))
  ];
  const [top, bottom] = [
    Math.min(...ends.map(({ y, half }) => y - half)),
    Math.max(...ends.map(({ y, half }) => y + half))
  ];
  const cells = covered((u, v) => {
    const point = { x: left + u * (right - left), y: top + v * (bottom - top) };
    return lines.some(({ a, b, half }) => distanceToSegment(point, a, b) <= half);
  });
  return { aspect: (right - left) / (bottom - top), cells };
}

const mirroredCells = (cells: Float32Array): Float32Array =>
  cells.map((_, i) => cells[i - (i % gridSide) + gridSide - 1 - (i % gridSide)]);
/** Turned by a quarter, clockwise. */
const turnedCells = (cells: Float32Array): Float32Array =>
  cells.map((_, i) => {
    const [x, y] = [i % gridSide, Math.floor(i / gridSide)];
    return cells[(gridSide - 1 - x) * gridSide + y];
  });

/** Averages each cell with its neighbours, and makes mean 0 and length 1 of it all: two such are alike by their product. */
export function levelled(cells: Float32Array): Float32Array {
  const out = cells.map((_, i) => {
    const [x, y] = [i % gridSide, Math.floor(i / gridSide)];
    let [sum, count] = [0, 0];
    for (let v = Math.max(0, y - 1); v <= Math.min(gridSide - 1, y + 1); v++)
      for (let u = Math.max(0, x - 1); u <= Math.min(gridSide - 1, x + 1); u++, count++)
        sum += cells[v * gridSide + u];
    return sum / count;
  });
  const mean = out.reduce((sum, value) => sum + value, 0) / out.length;
  const length = Math.sqrt(out.reduce((sum, value) => sum + (value - mean) ** 2, 0));
  return length > 0 ? out.map((value) => (value - mean) / length) : out;
}

function allShapes(): LetterShape[] {
  const out: LetterShape[] = [];
  for (const letter of Object.keys(strokes) as Letter[]) {
    const plain: readonly Stroke[] = strokes[letter];
    const more = serifs[letter];
    const cut = square[letter];
    const footed = roman[letter];
    const ways = [
      { all: inked(plain), of: thicknesses },
      ...(more ? [{ all: inked([...plain, ...more]), of: thicknesses }] : []),
      ...(cut ? [{ all: inked(cut), of: thicknesses }] : []),
      ...(footed
        ? [{ all: [...inked(footed.thick), ...inked(footed.thin, thinShare)], of: romanThicknesses }]
        : [])
    ].flatMap(({ all, of }) =>
      of.flatMap((thickness) => leansDeg.map((lean) => drawn(all, thickness, lean)))
    );
    for (const upright of ways)
      for (const mirrored of [false, true]) {
        let cells = levelled(mirrored ? mirroredCells(upright.cells) : upright.cells);
        for (let quarterTurns = 0; quarterTurns < 4; quarterTurns++) {
          const aspect = quarterTurns % 2 === 0 ? upright.aspect : 1 / upright.aspect;
          out.push({ letter, mirrored, quarterTurns, aspect, cells });
          cells = turnedCells(cells);
        }
      }
  }
  return out;
}

let shapes: LetterShape[] | null = null;

/** Every letter in every thickness, lean and turn, read rightly and mirrored; made once. */
export const letterShapes = (): readonly LetterShape[] => (shapes ??= allShapes());
