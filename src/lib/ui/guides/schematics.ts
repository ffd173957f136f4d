/** A drawing of the anatomy in one view: `height` for a width of 100, so landmarks lie at 100 x and `height` y. */
export interface Schematic {
  height: number;
  /** Outlines of bones and teeth, which are filled. */
  solid: readonly string[];
  /** Lines within and around them. */
  fine: readonly string[];
  /** Skin, air, and what only gives a hold. */
  faint: readonly string[];
  /** Drawn as in a mirror. */
  mirrored?: true;
}

const circle = (x: number, y: number, r: number) =>
  `M${x - r} ${y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0Z`;
const oval = (x: number, y: number, rx: number, ry: number, deg = 0) => {
  const a = (deg * Math.PI) / 180;
  const [c, s] = [rx * Math.cos(a), rx * Math.sin(a)];
  return `M${x - c} ${y - s}A${rx} ${ry} ${deg} 1 0 ${x + c} ${y + s}A${rx} ${ry} ${deg} 1 0 ${x - c} ${y - s}Z`;
};
/** A four-sided body with hollowed sides, as a vertebra is seen. */
const block = (x: number, y: number, w: number, h: number, leanDeg = 0): string => {
  const a = (leanDeg * Math.PI) / 180;
  const at = (u: number, v: number) => {
    const [p, q] = [(u * w) / 2, (v * h) / 2];
    return `${(x + p * Math.cos(a) - q * Math.sin(a)).toFixed(2)} ${(y + p * Math.sin(a) + q * Math.cos(a)).toFixed(2)}`;
  };
  return `M${at(-1, -1)}Q${at(0, -0.8)} ${at(1, -1)}Q${at(0.8, 0)} ${at(1, 1)}Q${at(0, 0.8)} ${at(-1, 1)}Q${at(-0.8, 0)} ${at(-1, -1)}Z`;
};

const rootedTooth: Schematic = {
  height: 130,
  solid: [
    'M33 38C28 28 30 13 37 9C41 7 43 12 46 11C50 10 54 7 59 9C67 13 69 28 65 38C62 58 56 82 46 112C43 120 37 122 36 116C33 92 36 62 33 38Z'
  ],
  fine: [
    'M33 38C40 45 57 45 65 38',
    'M45 30C42 36 43 42 45 48C46 68 44 88 40 116M53 30C56 38 52 44 50 49C51 68 48 90 41 116M45 30C48 26 51 26 53 30'
  ],
  faint: [
    'M4 52C14 47 24 49 33 52M65 52C74 48 86 48 96 53',
    'M30 56C31 84 31 104 34 122M67 56C62 84 54 108 46 122'
  ]
};
const evenTooth: Schematic = {
  height: 130,
  solid: [
    'M36 39C30 30 31 14 38 9C43 6 46 12 50 12C54 12 57 6 62 9C69 14 70 30 64 39C63 62 59 92 53 116C52 121 48 121 47 116C41 92 37 62 36 39Z'
  ],
  fine: [
    'M36 39C42 45 58 45 64 39',
    'M47 30C45 40 48 60 50 116M53 30C55 40 52 60 50 116M47 30C48 26 52 26 53 30'
  ],
  faint: [
    'M2 54C12 49 24 49 33 52L36 58C38 84 42 108 46 124H2Z',
    'M98 54C88 49 76 49 67 52L64 58C62 84 58 108 54 124H98Z'
  ]
};

const wristFront: Schematic = {
  height: 120,
  solid: [
    // Radius and ulna.
    'M33 120L33 80C31 70 25 60 23 50C22 44 24 42 27 45C34 53 45 57 56 55L57 62C54 70 48 76 47 84L47 120Z',
    'M62 120L63 84C63 74 61 66 62 59C63 55 72 55 74 58C76 55 77 52 78 54C79 62 75 72 73 84L74 120Z',
    // Near row of the wrist, then the far one.
    oval(34, 44, 9, 5.5, -52),
    oval(47, 47, 7.5, 6),
    oval(59, 46, 6.5, 5.5, 28),
    oval(66, 41, 4, 4.4),
    oval(25, 29, 6, 4.5, -30),
    oval(35, 28, 4.5, 5),
    oval(46, 31, 6, 9),
    oval(58, 31, 6.5, 8, 8),
    // Bones of the palm.
    'M17 22C10 14 6 6 3 0H12C15 6 20 14 25 20Z',
    'M30 21C28 14 27 7 27 0H37C37 7 38 14 39 21Z',
    'M42 20C41 13 41 7 41 0H50C50 7 51 13 51 20Z',
    'M54 21C54 14 54 7 55 0H63C62 7 62 14 62 22Z',
    'M64 23C66 15 67 8 69 0H78C75 8 72 16 70 25Z'
  ],
  fine: ['M37 120C37 100 38 90 40 80M66 120V86'],
  faint: ['M12 120C14 86 10 60 3 30M88 120C86 84 88 50 92 0']
};
const wristSide: Schematic = {
  height: 120,
  solid: [
    'M42 120L42 78C41 68 37 62 36 55C43 60 56 56 64 48C66 56 60 66 58 78L58 120Z',
    // Half moon, head bone and a bone of the palm.
    'M39 51C38 42 46 37 54 38C62 40 65 45 63 47C56 54 45 56 39 51Z',
    'M43 36C42 28 44 20 50 20C57 20 60 28 58 36C54 34 47 34 43 36Z',
    'M45 18C46 12 46 6 46 0H58C58 6 58 12 57 18Z'
  ],
  fine: ['M47 120V82M53 120V82', 'M36 33C30 30 28 22 33 18C38 20 41 26 41 34'],
  faint: ['M26 120C28 90 22 60 26 34C28 20 30 10 30 0M74 120C74 90 80 60 72 36C70 22 70 10 70 0']
};

const leg = (x: number, out: 1 | -1) => {
  const at = (dx: number) => x + out * dx;
  return [
    // Thigh bone with its head, neck and the bump outside.
    circle(x, 13, 5),
    `M${at(3)} 17C${at(7)} 19 ${at(10)} 17 ${at(12)} 15C${at(15)} 18 ${at(14)} 24 ${at(11)} 30C${at(8)} 55 ${at(5)} 80 ${at(7)} 100C${at(10)} 106 ${at(9)} 112 ${at(5)} 112C${at(2)} 112 ${at(1)} 107 ${at(0)} 107C${at(-1)} 107 ${at(-2)} 112 ${at(-5)} 112C${at(-9)} 112 ${at(-9)} 106 ${at(-6)} 100C${at(-3)} 80 ${at(1)} 52 ${at(4)} 28C${at(3)} 24 ${at(0)} 21 ${at(-1)} 19Z`,
    // Shin bone, and the thin one beside it.
    `M${at(-8)} 116C${at(-3)} 114 ${at(-1)} 112 ${at(0)} 114C${at(1)} 112 ${at(3)} 114 ${at(8)} 116C${at(8)} 124 ${at(5)} 130 ${at(4)} 140C${at(4)} 168 ${at(4)} 186 ${at(5)} 206L${at(-6)} 209C${at(-6)} 200 ${at(-4)} 186 ${at(-4)} 140C${at(-5)} 130 ${at(-8)} 124 ${at(-8)} 116Z`,
    `M${at(8)} 121C${at(11)} 121 ${at(11)} 126 ${at(10)} 130L${at(9)} 200C${at(10)} 208 ${at(8)} 214 ${at(7)} 212L${at(7)} 130Z`,
    `M${at(-6)} 211C${at(-2)} 208 ${at(3)} 208 ${at(6)} 210L${at(8)} 220H${at(-8)}Z`
  ];
};
const legs = (right: number, left: number): Schematic => ({
  height: 222,
  solid: [
    'M24 2C18 4 16 12 22 14C26 12 30 14 31 20C36 24 44 24 46 18C48 12 52 12 54 18C56 24 64 24 69 20C70 14 74 12 78 14C84 12 82 4 76 2C66 0 60 4 56 8C52 10 48 10 44 8C40 4 34 0 24 2Z',
    ...leg(right, -1),
    ...leg(left, 1)
  ],
  fine: ['M44 8L50 16L56 8'],
  faint: []
});

/** Vertebrae from the side down a line, the patient looks to the left. */
const trunkSide: Schematic = (() => {
  const solid: string[] = [];
  const middle = (t: number) => ({
    x:
      47 +
      13 * Math.sin(Math.PI * Math.min(1, t / 0.62)) * (t < 0.62 ? 1 : 0) +
      (t >= 0.62 ? -9 * Math.sin(Math.PI * ((t - 0.62) / 0.38)) + 6 * (t - 0.62) * 2 : 0),
    y: 11 + 90 * t
  });
  const count = 18;
  for (let i = 0; i < count; i++) {
    const t = i / (count - 1);
    const [a, b] = [middle(Math.max(0, t - 0.03)), middle(Math.min(1, t + 0.03))];
    const lean = (-Math.atan2(b.x - a.x, b.y - a.y) * 180) / Math.PI;
    const { x, y } = middle(t);
    solid.push(block(x, y, 8 + 4 * t, 4.1, lean));
  }
  return {
    height: 140,
    solid: [
      ...solid,
      'M48 106.4L60 100.8C66 104 72 112 74 122C74 128 71 131 69 128C66 120 58 114 48 106.4Z',
      circle(40, 129, 5.5),
      circle(45, 130.5, 5.5)
    ],
    fine: ['M48 106.4C42 112 36 118 33 126C34 134 40 138 50 137C60 134 66 126 66 118'],
    faint: ['M30 4C34 18 22 40 24 64C22 84 16 104 20 140M58 4C72 30 78 60 66 92C80 108 84 124 82 140']
  };
})();

const names = 17;
const spineFront: Schematic = (() => {
  const height = 200;
  const rows = Array.from({ length: names }, (_, i) => ({
    y: height * (0.05 + (0.9 * i) / (names - 1)),
    half: 100 * (0.06 + 0.002 * i)
  }));
  return {
    height,
    solid: rows.map(({ y, half }) => block(50, y, 2 * half, height * 0.032)),
    fine: rows.map(
      ({ y, half }) => `M${50 - half * 0.45} ${y - 1}v2M${50 + half * 0.45} ${y - 1}v2M50 ${y - 1}v3`
    ),
    faint: [
      ...rows
        .slice(0, 11)
        .flatMap(({ y, half }, i) =>
          [1, -1].map(
            (side) =>
              `M${50 + side * (half + 1)} ${y}C${50 + side * (20 + i)} ${y - 6} ${50 + side * (28 + i)} ${y + 4} ${50 + side * (31 + 0.5 * i)} ${y + 16}`
          )
        ),
      'M40 196C30 186 16 184 8 190M60 196C70 186 84 184 92 190'
    ]
  };
})();

const neckSide: Schematic = {
  height: 110,
  solid: [
    ...Array.from({ length: 6 }, (_, i) => {
      const back = 55 - 2 * i;
      const top = 110 * (0.2 + 0.13 * i);
      const wide = 16 - 0.2 * i;
      const high = 110 * 0.09;
      return `M${back} ${top}L${back - 0.5} ${top + high}L${back - wide - 1} ${top + high + 1.6}Q${back - wide + 1.5} ${top + high / 2 + 1} ${back - wide} ${top + 1.6}Z`;
    }),
    'M46 20C46 12 50 9 53 12C54 16 54 19 54 21Z'
  ],
  fine: Array.from({ length: 6 }, (_, i) => {
    const back = 57 - 2 * i;
    const y = 110 * (0.2 + 0.13 * i) + 3;
    return `M${back + 3} ${y}C${back + 8} ${y - 2} ${back + 9} ${y + 6} ${back + 5} ${y + 8}M${back + 10} ${y + 2}C${back + 16} ${y + 3} ${back + 21} ${y + 6} ${back + 24} ${y + 10}C${back + 20} ${y + 11} ${back + 14} ${y + 8} ${back + 10} ${y + 7}`;
  }),
  faint: [
    'M14 0C16 8 26 13 40 13C46 12 60 10 74 2',
    'M22 16C26 22 22 30 20 40C18 60 14 80 6 100M88 0C86 30 84 60 92 110',
    'M10 12C14 18 24 20 33 19'
  ]
};

const body = { head: 12, neck: 24 };
const postureFront: Schematic = {
  height: 200,
  solid: [],
  fine: [
    oval(50, 20, 9.5, 13),
    'M45 31V38C40 43 30 43 26 48C22 56 20 84 17 110C16 116 20 117 22 112C26 92 29 76 32 64C33 84 34 98 34 108C32 130 36 160 38 194H46C46 160 48 140 50 122C52 140 54 160 54 194H62C64 160 68 130 66 108C66 98 67 84 68 64C71 76 74 92 78 112C80 117 84 116 83 110C80 84 78 56 74 48C70 43 60 43 55 38V31'
  ],
  faint: [
    `M4 2V196`,
    circle(4, 30, 2.4),
    circle(4, 170, 2.4),
    `M0 198H100`,
    `M${50} ${body.head}V${body.neck}`
  ]
};
const postureLeft: Schematic = {
  height: 200,
  solid: [],
  fine: [
    'M44 34C37 33 34 28 35 24L32 22L35 18C35 10 42 6 50 7C60 8 63 16 61 24C60 29 58 32 58 37C66 44 68 58 65 72C64 84 68 92 68 104C68 122 62 140 62 158C62 172 62 184 62 192H46C46 196 40 196 36 195C36 190 46 188 48 184C46 160 44 140 44 120C40 104 42 94 40 80C36 68 38 52 44 42Z',
    'M50 48C56 60 54 78 52 90C50 100 46 108 44 116'
  ],
  faint: ['M86 2V196', circle(86, 30, 2.4), circle(86, 170, 2.4), 'M0 198H100']
};

const dogHips: Schematic = {
  height: 110,
  solid: [
    // Wings and bodies of the pelvis, either side of the sacrum.
    'M36 6C28 8 22 18 27 30C28 38 26 44 27 52C30 50 37 53 38 60C36 66 40 70 45 72C47 62 44 52 42 42C42 28 43 16 42 8Z',
    'M64 6C72 8 78 18 73 30C72 38 74 44 73 52C70 50 63 53 62 60C64 66 60 70 55 72C53 62 56 52 58 42C58 28 57 16 58 8Z',
    'M43 4H57L55 30C53 38 47 38 45 30Z',
    circle(30, 66, 7),
    circle(70, 66, 7),
    'M25 71C20 70 14 66 12 72C11 78 15 84 16 92L17 110H28C28 98 28 88 31 80C33 77 33 74 33 72Z',
    'M75 71C80 70 86 66 88 72C89 78 85 84 84 92L83 110H72C72 98 72 88 69 80C67 77 67 74 67 72Z'
  ],
  fine: [
    'M45 72C46 86 48 92 50 92C52 92 54 86 55 72',
    'M50 72V90',
    oval(43, 82, 3, 6, 12),
    oval(57, 82, 3, 6, -12)
  ],
  faint: ['M48 38L49 60M52 38L51 60', 'M2 20C8 40 4 80 6 110M98 20C92 40 96 80 94 110']
};

const dogChest: Schematic = {
  height: 90,
  solid: Array.from({ length: 14 }, (_, i) => block(14.5 + 6 * i, 9.6, 5, 6)),
  fine: [
    // Heart, then the windpipe down to its fork.
    'M42 37C33 38 28 46 30 56C33 66 42 72 50 72.5C57 68 60 56 56 46C54 40 48 36 42 37Z',
    'M2 30C16 29 30 32 40 35M2 36C16 35 28 38 38 41',
    circle(42, 37.5, 2.4)
  ],
  faint: [
    ...Array.from(
      { length: 9 },
      (_, i) => `M${20 + 7 * i} 14C${14 + 7.4 * i} 36 ${14 + 7.6 * i} 56 ${18 + 6.6 * i} 74`
    ),
    'M62 80C66 60 76 34 90 16',
    'M6 84C30 80 52 82 70 82'
  ]
};

const stifle: Schematic = {
  height: 130,
  solid: [
    // Thigh bone's end with its round condyle, knee cap, shin bone and ankle bone.
    'M26 0C28 10 30 16 30 22C28 28 31 36 40 37C50 39 60 42 66 38C72 32 68 24 58 18C52 12 48 6 46 0Z',
    oval(24, 20, 4, 8, -14),
    'M40 39C44 38 48 37 50 36.4C53 38 58 44 63 47C64 54 58 60 56 70C55 88 56 102 61 116C58 120 52 120 49 116C48 100 45 84 40 66C36 58 32 52 33 46C35 42 38 40 40 39Z',
    circle(55, 123.5, 6)
  ],
  fine: ['M45 39.5L48 35L50 37.5L53 35L55 41', 'M61 60C66 80 68 100 66 116'],
  faint: [
    'M24 30C26 38 30 42 33 46',
    'M10 0C6 30 12 60 30 80C36 100 38 116 40 130M84 10C88 40 82 70 76 90C74 106 76 118 76 130'
  ]
};

const eye: Schematic = {
  height: 70,
  solid: [],
  fine: [circle(50, 35, 30), circle(50, 35, 10)],
  faint: [
    'M2 40C16 12 36 4 50 4C66 4 86 14 98 38C84 58 66 66 50 66C34 66 16 60 2 40Z',
    oval(50, 35, 18, 18),
    'M6 34C20 4 80 4 95 32'
  ]
};

const legsDrawn = legs(30, 70);
const footSide: Schematic = {
  height: 90,
  solid: [
    // The bones before them, then heel bone and ankle bone, a metatarsal and the end of the shin.
    'M22 30C28 28 32 30 33 35C33 40 28 44 24 44C18 44 18 34 22 30Z',
    'M19 47C23 47 27 48 29 50C31 54 30 58 27 60C22 60 18 56 19 47Z',
    'M30 41.4C36 42 42 42 46 38C48 32 52 29 55 31C60 36 70 38 82 37.8C90 40 94 52 90 62C86 70 78 70 74 64C62 60 46 60 34 56C28 52 27 44 30 41.4Z',
    'M38 28C42 16 54 12 64 16C70 20 68 28 62 31C58 29 54 27 50 30C46 34 44 38 40 38C34 36 34 32 38 28Z',
    'M17 38C12 44 6 54 0 64L5 68C11 62 16 56 18 50Z',
    'M44 0C44 6 42 12 44 15C50 10 58 9 66 13C70 10 68 4 68 0Z'
  ],
  fine: ['M46 38C50 40 53 36 55 31', 'M74 64C78 58 82 50 83 40'],
  faint: ['M28 0C28 14 18 24 8 38M82 0C84 14 90 24 94 34C100 50 98 70 88 76C66 80 30 76 2 76']
};

const toes = (x: number, base: number, head: number, wide: number, lean: number) =>
  `M${x - wide} ${base}C${x - 0.5 * wide} ${base - 10} ${x + lean - 0.6 * wide} ${head + 10} ${x + lean - wide} ${head}C${x + lean - wide} ${head - 5} ${x + lean + wide} ${head - 5} ${x + lean + wide} ${head}C${x + lean + 0.6 * wide} ${head + 10} ${x + 0.5 * wide} ${base - 10} ${x + wide} ${base}Z`;
const footAbove: Schematic = {
  height: 130,
  solid: [
    toes(28, 86, 48, 6, -2),
    toes(26, 42, 20, 5, -2),
    toes(23.5, 15, 4, 4.4, -1),
    toes(45, 84, 42, 4.6, -2),
    toes(42.5, 37, 22, 3.4, -1),
    toes(57, 86, 47, 4.4, 1),
    toes(58, 42, 28, 3.2, 1),
    toes(67, 90, 54, 4.2, 4),
    toes(71.5, 49, 36, 3, 2),
    toes(76, 96, 63, 4.2, 7),
    toes(83, 58, 47, 2.8, 3),
    'M22 90C30 88 38 90 42 88L50 89C58 90 66 93 72 96C72 104 64 112 58 114C46 112 30 108 24 102Z',
    'M34 108C44 112 56 114 64 112C70 118 66 128 64 134H34C30 126 30 114 34 108Z'
  ],
  fine: ['M41 88V110M51 90V112M61 92V113'],
  faint: ['M14 130C16 104 14 80 15 56C16 30 16 10 22 0M92 44C94 70 88 100 80 130']
};

const kneeSide: Schematic = {
  height: 130,
  solid: [
    'M48 0C47 20 42 34 40 46C38 58 44 70 56 73C70 76 82 70 82 58C82 50 76 46 74 38C72 24 72 12 72 0Z',
    'M24 31C29 31 31 33 30.4 36C30 42 29.6 48 29 54.6C27 60 24 62 22 60C17 54 16 38 24 31Z',
    'M40 74C50 79 66 80 82 76C84 82 78 88 74 94C72 108 71 120 71 130H46C46 118 44 108 38 98C34 96 34 92 37 90C39 84 38 78 40 74Z',
    'M76 90C82 90 84 96 82 102L80 130H74L75 100Z'
  ],
  fine: ['M22 60C24 70 30 84 36 93.6', 'M24 31C26 20 32 8 38 0'],
  faint: ['M14 0C12 20 6 40 10 56C14 74 24 96 32 130M92 0C94 30 98 60 92 90L90 130']
};

const pelvisHalf = (s: 1 | -1) => {
  const x = (dx: number) => 50 + s * dx;
  return [
    `M${x(9)} 14C${x(20)} 8 ${x(38)} 12 ${x(43)} 24C${x(42)} 36 ${x(34)} 42 ${x(28)} 48C${x(22)} 50 ${x(18)} 53 ${x(16)} 56C${x(12)} 50 ${x(9)} 40 ${x(10)} 30Z`,
    `M${x(15)} 60C${x(10)} 62 ${x(4)} 66 ${x(2)} 72C${x(3)} 76 ${x(8)} 76 ${x(11)} 74C${x(12)} 82 ${x(16)} 88 ${x(21)} 86C${x(22)} 80 ${x(20)} 72 ${x(18)} 66Z`,
    circle(x(25), 60, 7.5),
    `M${x(30)} 66C${x(33)} 64 ${x(37)} 61 ${x(39)} 62C${x(43)} 68 ${x(41)} 76 ${x(39)} 84L${x(38)} 100H${x(28)}C${x(29)} 88 ${x(28)} 78 ${x(25)} 71Z`
  ];
};
const pelvisFront: Schematic = {
  height: 100,
  solid: ['M42 12H58L56 34C54 44 46 44 44 34Z', ...pelvisHalf(-1), ...pelvisHalf(1)],
  fine: ['M46 20h2M52 20h2M46 27h2M52 27h2', oval(40, 78, 4.5, 6, 20), oval(60, 78, 4.5, 6, -20)],
  faint: ['M4 0C0 24 4 60 6 100M96 0C100 24 96 60 94 100']
};

const bitewingTooth: Schematic = {
  height: 110,
  solid: [
    // Two crowns that touch, and the lower ends of their roots' upper part.
    'M20 52C16 42 15 30 20 22C26 14 34 18 42 20C50 16 62 14 68 22C73 30 72 42 68 52C66 70 64 88 63 106H52C52 92 50 82 44 78C38 82 36 92 36 106H25C24 88 22 70 20 52Z',
    'M-12 20C0 14 13 16 16 23C19 32 18 42 15 52C13 70 12 90 11 106H-12Z',
    'M112 20C96 14 78 16 73 23C70 32 71 42 74 52C76 70 77 90 78 106H112Z'
  ],
  fine: [
    // Edge of the dentine, and the chamber of the pulp.
    'M22 50C27 44 26 34 28 28C34 24 40 27 43 29C50 25 58 24 62 28C64 36 62 44 67 50',
    'M38 41C36 36 40 35 44 37C48 35 54 35 53 41C54 48 56 74 57 106M38 41C36 54 31 80 30 106M44 62C46 58 48 58 50 62',
    // The lesion.
    'M18.5 33C22 32 27 33 27.5 35C30 36.5 32.5 38 33 39.5C31 41.5 28.5 41 27 40.5C24 40 20.5 39 18 38.5Z',
    'M14 50C10 44 11 34 8 28M75 50C79 44 78 34 82 28'
  ],
  faint: [
    // The crest of the bone.
    'M-4 64C4 60 12 62 20 62M68 62C76 60 90 62 104 64'
  ]
};
const gapSite: Schematic = {
  height: 110,
  solid: [
    'M4 40C-2 30 0 14 8 9C16 5 28 6 31 14C33 20 31 32 28 40C27 60 24 84 17 102C14 106 10 106 9 102C6 82 4 60 4 40Z',
    'M96 40C102 30 100 14 92 9C84 5 72 6 69 14C67 20 69 32 72 40C73 60 76 84 83 102C86 106 90 106 91 102C94 82 96 60 96 40Z'
  ],
  fine: [
    'M4 40C10 45 22 45 28 40M96 40C90 45 78 45 72 40',
    'M15 30C14 50 14 80 13 100M85 30C86 50 86 80 87 100'
  ],
  faint: [
    'M28.5 40C36 42 42 48 50 48C58 48 64 42 71.5 40',
    'M42 58L43 92L47 98H53L57 92L58 58ZM42 66H58M42.5 74H57.5M43 82H57'
  ]
};
const sinusSite: Schematic = {
  height: 100,
  solid: [
    'M8 66C4 76 4 88 10 93C16 97 26 96 29 90C32 82 30 74 28 66C27 54 24 44 21 36C18 33 17 40 16 48C14 40 12 33 9 36C8 46 8 56 8 66Z',
    'M92 66C96 76 96 88 90 93C84 97 74 96 71 90C68 82 70 74 72 66C73 54 76 42 79 34C82 31 83 40 84 48C86 40 88 31 91 34C92 44 92 56 92 66Z'
  ],
  fine: [
    'M-4 26C6 32 14 31 22 33C32 38 40 42 50 42C60 42 70 34 80 30C90 30 98 26 104 22',
    'M8 66C14 61 22 61 28 66M72 66C78 61 86 61 92 66'
  ],
  faint: ['M30 70C38 75 44 78 50 78C56 78 62 75 70 70', 'M10 14C30 8 70 8 92 14M50 16V24']
};
const balanceFront: Schematic = {
  height: 172,
  solid: [
    // The spine, the halves of the pelvis, and the sacrum between them.
    ...Array.from({ length: 19 }, (_, i) => block(50, 7.5 + 6.4 * i, 9 + 0.25 * i, 5)),
    'M43 129H57L55 139C53 143 47 143 45 139Z',
    ...([-1, 1] as const).flatMap((side) => {
      const x = (dx: number) => 50 + side * dx;
      return [
        `M${x(7)} 131C${x(14)} 123 ${x(26)} 122 ${x(33)} 128C${x(33)} 137 ${x(27)} 142 ${x(24)} 147C${x(22)} 152 ${x(17)} 152 ${x(14)} 154C${x(9)} 157 ${x(4)} 158 ${x(1.5)} 162C${x(2)} 165 ${x(6)} 166 ${x(9)} 163C${x(10)} 168 ${x(14)} 172 ${x(17)} 170C${x(18)} 164 ${x(21)} 160 ${x(23)} 156C${x(14)} 148 ${x(9)} 142 ${x(6)} 139Z`,
        circle(x(25), 151, 4.6),
        `M${x(28)} 154C${x(31)} 152 ${x(33)} 151 ${x(35)} 153C${x(36)} 159 ${x(34)} 166 ${x(34)} 174H${x(28)}C${x(28)} 166 ${x(28)} 160 ${x(25)} 156Z`
      ];
    })
  ],
  fine: ['M46 21C38 14 32 14 26 18C20 20 14 20 10 18M54 21C62 14 68 14 74 18C80 20 86 20 90 18'],
  faint: [
    ...Array.from({ length: 9 }, (_, i) => {
      const y = 24 + 6.4 * i;
      return `M44 ${y}C34 ${y - 4} 24 ${y} 20 ${y + 9}M56 ${y}C66 ${y - 4} 76 ${y} 80 ${y + 9}`;
    }),
    'M50 2V170'
  ]
};
const elbowSide: Schematic = {
  height: 110,
  solid: [
    // Upper arm with its round end, the ulna behind and below it, the radius in front.
    'M28 0C30 16 32 26 34 34C32 42 36 52 45 54C54 54 58 46 56 38C53 32 50 28 48 20C47 12 47 6 47 0Z',
    'M53 32C57 31 62 26 66 18C72 14 80 16 80 22C77 32 68 42 66 50C62 62 58 84 56 110H47C48 90 50 76 50 66C49 62 46 60 46.5 58C52 57 57 52 57 45C57 39 55 35 53 32Z',
    'M30 56C34 58 38 60 41 62C43 68 44 76 43 88L42 110H29C30 94 31 80 30 70C28 64 28 60 30 56Z'
  ],
  fine: [circle(45, 44, 8)],
  faint: ['M18 0C20 20 24 40 20 60C16 80 18 100 18 110M86 12C92 24 80 50 74 70C70 90 70 100 70 110']
};
/** Seen from the front, the body to the right: shoulder blade with its socket, collar bone, acromion over the head. */
const shoulderFront: Schematic = {
  height: 110,
  solid: [
    // Shoulder blade with its hollow socket and its neck.
    'M64.5 36C66.5 41 68 46 68 51.5C68 57 66.5 62 64.5 67C69 71 76 78 80 90C82 98 84 105 85 110H101V36C92 37 86 35 79 34C73 33 66 31 64.5 36Z',
    // Acromion and its spine.
    'M23 26C24 20 34 17 44 18C56 19 67 25 77 32L101 42V30C88 26 74 17 60 12C46 8 28 10 22 18C20 22 20.5 26 23 26Z',
    // Collar bone.
    'M53 4C62 3 72 7 82 8C90 9 95 8 101 6V14C94 16 86 16 78 14C70 13 62 10 54 11C50 10 50 5 53 4Z',
    // Upper arm bone: head, greater tubercle, shaft.
    'M42 31C54 31 62 40 62 51C62 62 55 70 47 73C45 84 44 96 44 110H22C23 96 22 84 19 74C14 64 14 48 20 41C24 37 30 37 33 34C36 32 39 31 42 31Z'
  ],
  fine: ['M33 34C30 44 34 60 47 73', 'M64.5 36C68.5 40 71 46 71 51.5C71 57 68.5 63 64.5 67'],
  faint: ['M20 2C8 10 4 28 4 48C4 70 8 92 8 110', 'M58 110C60 96 66 84 74 82']
};
const thighFront: Schematic = {
  height: 150,
  solid: [
    circle(60.5, 13, 8),
    'M58 19C54 22 48 20 43 14C37 14 35 20 38 28C41 36 43 44 43.5 54C44 80 43 104 40 120C34 126 32 136 36 141C40 145 46 143 47 136C48 131 52 131 53 136C54 143 60 145 64 141C68 136 66 126 60 120C57 104 56 80 56.5 54C57 44 58 36 61 28C63 24 62 21 61 19Z'
  ],
  fine: [oval(50, 117, 5.5, 8), 'M42 16C44 22 43 28 41 32'],
  faint: ['M24 0C20 40 26 100 22 150M80 30C78 70 76 110 80 150']
};
const catChestSide: Schematic = {
  height: 90,
  solid: [
    ...Array.from({ length: 14 }, (_, i) => block(14.5 + 6 * i, 9.6, 5, 6)),
    ...Array.from({ length: 7 }, (_, i) => block(24 + 8 * i, 83 - 0.6 * i, 6.6, 3.4, -3))
  ],
  fine: [
    'M40 44C32 48 30 58 36 66C44 74 54 74 57 68C58 58 50 46 40 44Z',
    'M2 30C16 29 30 34 42 40M2 36C16 35 28 40 39 45'
  ],
  faint: [
    ...Array.from(
      { length: 9 },
      (_, i) => `M${20 + 7 * i} 14C${14 + 7.4 * i} 36 ${14 + 7.6 * i} 56 ${18 + 6.6 * i} 74`
    ),
    'M64 80C68 60 78 34 92 16'
  ]
};
const catChestAbove: Schematic = {
  height: 120,
  solid: [...Array.from({ length: 13 }, (_, i) => block(50, 10 + 8.4 * i, 8, 6))],
  fine: [
    'M40 46C34 56 36 74 46 84C54 88 62 78 61 64C60 54 54 46 48 44C45 43 42 44 40 46Z',
    'M36 10C24 26 16 50 14 78C12 94 14 106 18 116M64 10C76 26 84 50 86 78C88 94 86 106 82 116'
  ],
  faint: [
    ...Array.from({ length: 10 }, (_, i) => {
      const y = 16 + 8.4 * i;
      const reach = Math.min(34, 16 + 4 * i);
      return `M45 ${y}C${50 - reach * 0.7} ${y - 5} ${52 - reach} ${y} ${50 - reach} ${y + 12}M55 ${y}C${50 + reach * 0.7} ${y - 5} ${48 + reach} ${y} ${50 + reach} ${y + 12}`;
    }),
    'M14 104C30 84 44 94 50 92C58 94 70 84 86 104'
  ]
};
const horseFoot: Schematic = {
  height: 120,
  solid: [
    // Long pastern, short pastern, coffin bone, and the small bone behind their joint.
    'M62 0C66 4 76 8 82 4L86 8C80 16 70 30 64 42C58 47 48 44 46 37C50 26 58 12 60 2Z',
    'M45 41C50 46 56 49 63 46C62 54 58 62 56 66C50 70 42 68 38 62C40 54 43 46 45 41Z',
    'M38 66C40 67 46 71 55 70C60 78 66 86 66 93C62 96 54 95 46 97C38 99 30 101 24 101C26 92 33 76 38 66Z',
    'M58 70C62 68 67 71 66 75C62 78 57 76 58 70Z'
  ],
  fine: [
    // The wall and the sole.
    'M32 66L13 105C12 109 14 111 18 111H72C76 110 77 106 76 100C75 92 73 84 71 80',
    'M6 112H90M6 119H90M6 112V119M90 112V119'
  ],
  faint: ['M44 0C42 20 34 46 31 64M96 0C92 24 84 50 74 66C72 70 72 76 72 80', 'M40 98C50 104 60 104 70 106']
};

const drawings: Readonly<Record<string, Schematic>> = {
  'working-length tooth': rootedTooth,
  'crestal-bone tooth': evenTooth,
  'caries-depth tooth': bitewingTooth,
  'sinus-height site': sinusSite,
  'implant-site site': gapSite,
  'leg-length standing': legsDrawn,
  'leg-axes standing': legsDrawn,
  'hip-roof front': pelvisFront,
  'knee-cap side': kneeSide,
  'heel-bone side': footSide,
  'great-toe above': footAbove,
  'shoulder-room front': shoulderFront,
  'distal-radius front': wristFront,
  'distal-radius side': wristSide,
  'spine-curve front': spineFront,
  'spine-balance front': balanceFront,
  'neck-curve neutral': neckSide,
  'neck-curve bent': neckSide,
  'neck-curve stretched': neckSide,
  'pelvis-side side': trunkSide,
  'posture front': postureFront,
  'posture right': { ...postureLeft, mirrored: true },
  'posture left': postureLeft,
  'hip-cover below': dogHips,
  'heart-score side': dogChest,
  'heart-score-cat side': dogChest,
  'chest-shape side': catChestSide,
  'chest-shape above': catChestAbove,
  'plateau-angle side': stifle,
  'knee-cap-dog side': stifle,
  'knee-cap-dog front': thighFront,
  'elbow-fit side': elbowSide,
  'hoof side': horseFoot,
  'eye-widths eye': eye
};

/** @param key guide and view, as `distal-radius front` */
export const schematicOf = (key: string): Schematic | null => drawings[key] ?? null;
/** A sheet without a drawing. */
export const blank: Schematic = { height: 100, solid: [], fine: [], faint: [] };
