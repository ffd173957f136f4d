import { quillTarget } from '../src/lib/core/cornea/target';
import { eyeWidths } from '../src/lib/core/measurement/guides/eye';
import { straightAhead } from '../src/lib/core/phantom/eye/mirror';
import { ringImage } from '../src/lib/core/phantom/eye/ringImage';
import type { PlacedPoint } from '../src/lib/core/calibration/scale';
import { linesDeg } from '../src/lib/core/measurement/geometry';
import { hipCover } from '../src/lib/core/measurement/guides/dogHips';
import { plateauAngle } from '../src/lib/core/measurement/guides/plateauAngle';
import type { GuideView } from '../src/lib/core/measurement/guides/guide';
import { sharpenedBy } from '../src/lib/core/measurement/guides/sharpened';
import { legAxes } from '../src/lib/core/measurement/guides/legs';
import { pelvisSide } from '../src/lib/core/measurement/guides/pelvis';
import { spineCurve } from '../src/lib/core/measurement/guides/spineCurve';
import { crestalBone, workingLength } from '../src/lib/core/measurement/guides/teeth';
import { distalRadius } from '../src/lib/core/measurement/guides/wrist';
import { dogHipsScene } from '../src/lib/core/phantom/animals/dogHips';
import { dogStifleScene } from '../src/lib/core/phantom/animals/dogSide';
import { legsScene } from '../src/lib/core/phantom/bones/legs';
import { spineFrontScene, spineSideScene } from '../src/lib/core/phantom/bones/spine';
import { wristScene } from '../src/lib/core/phantom/bones/wrist';
import { bodyPicture } from '../src/lib/core/phantom/foreign/bodyPicture';
import { eyePhotograph } from '../src/lib/core/phantom/foreign/eyePhotograph';
import { roundJoint } from '../src/lib/core/phantom/foreign/roundJoint';
import { toothRoot } from '../src/lib/core/phantom/foreign/toothRoot';
import { mouthBody } from '../src/lib/core/phantom/teeth/body';
import { mouth } from '../src/lib/core/phantom/teeth/dentition';
import { ordinaryMouth } from '../src/lib/core/phantom/teeth/ordinaryMouth';
import { beamTeeth, toothView } from '../src/lib/core/phantom/teeth/views';
import { type SeededRandom, seededRandom } from '../src/lib/core/random';
import type { Point } from '../src/lib/core/raster/orientation';
import { patchOfRaster } from '../src/lib/core/raster/patch';
import { proposedIn } from '../src/lib/core/measurement/guides/proposed';
import { posture } from '../src/lib/core/measurement/guides/posture';
import { anyFigure, figurePaints, onBody } from '../src/lib/core/phantom/photo/anyFigure';
import { figurePhotograph } from '../src/lib/core/phantom/photo/figure';
import type { Truth } from './measuring';

/** Figures of each view, with seeds that nothing was tuned on. */
const figures = 25;
const firstSeed = 8101;
const nearPx = 2;

/** Landmarks proposed in posture photographs: how many are right, and of all that there are how many are proposed right. */
export function truthOfProposals(): Truth[] {
  return (['front', 'right', 'left'] as const).flatMap((from) => {
    const view = posture.views.find(({ key }) => key === from)!;
    let [right, proposed, all, lines] = [0, 0, 0, 0];
    for (let i = 0; i < figures; i++) {
      const { wish, rollDeg } = anyFigure(firstSeed + i);
      const { raster, known } = figurePhotograph(wish, from, rollDeg, figurePaints[i % figurePaints.length]);
      const found = proposedIn(view, raster);
      const isRight = (key: string) => {
        const truth = known[onBody(key, from)].imagePoint;
        return (
          found[key] !== undefined && Math.hypot(found[key].x - truth.x, found[key].y - truth.y) < nearPx
        );
      };
      for (const { key, beside } of view.landmarks) {
        if (beside) continue;
        all++;
        if (found[key]) proposed++;
        if (isRight(key)) right++;
      }
      if (view.vertical!.every(isRight)) lines++;
    }
    const name = `photographs from the ${from}`;
    return [
      { name: `${name}: proposed markers that are right`, right, of: proposed, must: 0.97 },
      // From the side an arm hangs over one marker of six.
      {
        name: `${name}: markers, hidden ones too, proposed right`,
        right,
        of: all,
        must: from === 'front' ? 0.9 : 0.7
      },
      { name: `${name}: plumb lines found`, right: lines, of: figures, must: 0.95 }
    ];
  });
}

const eyes = 16;
const photographs = 80;

/** Iris and pupil of simulated eyes that look at the camera: both edges found, and each width right. */
export function truthOfEyes(): Truth[] {
  let [limbus, pupil, told] = [0, 0, 0];
  for (let i = 0; i < eyes; i++) {
    const random = seededRandom(firstSeed + 400 + i);
    const irisMm = 5.3 + 1.0 * random.uniform();
    const pupilMm = 1.2 + 1.8 * random.uniform();
    const { raster } = ringImage({
      cornea: { flatMm: 7.3 + random.uniform() },
      pose: straightAhead,
      target: quillTarget,
      seed: firstSeed + i,
      irisMm,
      pupilMm
    });
    const found = proposedIn(eyeWidths.views[0], raster);
    if (!found['limbus right'] || !found['pupil right']) continue;
    told++;
    const wide = (part: string) => (found[`${part} right`].x - found[`${part} left`].x) / quillTarget.pxPerMm;
    // The camera sees the pupil through the cornea, which enlarges it.
    if (Math.abs(wide('limbus') / (1.98 * irisMm) - 1) < 0.03) limbus++;
    if (Math.abs(wide('pupil') / (1.98 * 1.06 * pupilMm) - 1) < 0.08) pupil++;
  }
  let [photographed, right, shut] = [0, 0, 0];
  for (let i = 0; i < photographs; i++) {
    const eye = eyePhotograph(seededRandom(firstSeed + 600 + i));
    shut += Number(
      Object.keys(
        proposedIn(
          eyeWidths.views[0],
          eyePhotograph(seededRandom(firstSeed + 600 + i), { eye: false }).raster
        )
      ).length > 0
    );
    const found = proposedIn(eyeWidths.views[0], eye.raster);
    if (!found['limbus right'] || !found['pupil right']) continue;
    photographed++;
    const off = (part: 'limbus' | 'pupil') =>
      Math.abs((found[`${part} right`].x - found[`${part} left`].x) / (2 * eye[part].radiusPx) - 1);
    right += Number(off('limbus') < 0.05 && off('pupil') < 0.08);
  }
  return [
    {
      name: 'eyes by formulas: both widths told that are right, to 5 and 8 %',
      right,
      of: photographed,
      must: 0.95
    },
    { name: 'eyes by formulas: both told', right: photographed, of: photographs, must: 0.7 },
    { name: 'shut eyes: nothing told', right: photographs - shut, of: photographs, must: 1 },
    { name: 'eyes: widths of the iris told that are right, to 3 %', right: limbus, of: told, must: 0.95 },
    { name: 'eyes: widths of the pupil told that are right, to 8 %', right: pupil, of: told, must: 0.95 },
    { name: 'eyes: both told', right: told, of: eyes, must: 0.8 }
  ];
}

const families = ['linear', 'logarithmic', 'curved', 'root'] as const;
const bodies = 8;
const joints = 80;

/** Rough presses made sharper, in pictures of detectors that are not the simulator's own: what is told, and is it right. */
export function truthOfSharpening(): Truth[] {
  const tallies = new Map<string, { right: number; told: number; all: number }>();
  const count = (name: string, told: boolean, right: boolean) => {
    const tally = tallies.get(name) ?? { right: 0, told: 0, all: 0 };
    tallies.set(name, {
      right: tally.right + Number(told && right),
      told: tally.told + Number(told),
      all: tally.all + 1
    });
  };
  const holds = { right: 0, all: 0 };
  let [falsely, without, hidden, misled] = [0, 0, 0, 0];
  for (let i = 0; i < joints; i++) {
    const random = seededRandom(firstSeed + i);
    for (const head of [true, false]) {
      const drawn = roundJoint(families[i % 4], random, { head });
      const { center, radiusPx } = drawn.head;
      const press = pressed(random, center, 0.3 * radiusPx);
      const found = sharpenedBy(headView, { head: press }, patchOfRaster(drawn.raster)).head;
      if (head && found) {
        // Both ways together, 95 of 100.
        holds.all++;
        holds.right += Number(far(found, center) <= 2.45 * found.uncertaintyPx);
      }
      if (head)
        count(
          'heads drawn by formulas',
          Boolean(found),
          Boolean(found) && far(found, center) < 0.08 * radiusPx
        );
      else {
        without++;
        falsely += Number(Boolean(found));
      }
    }
  }
  for (let i = 0; i < bodies; i++) {
    const random = seededRandom(firstSeed + 200 + i);
    const family = families[i % 4];
    const curves = [
      { upper: 'T5', lower: 'T11', cobbDeg: 20 + 20 * random.uniform(), convex: 'right' as const }
    ];
    const wrist = {
      seed: firstSeed + i,
      side: 'right',
      inclinationDeg: 24,
      volarTiltDeg: 9,
      ulnarVarianceMm: 1
    } as const;
    const hips = bodyPicture(
      dogHipsScene({
        seed: firstSeed + i,
        rightDeg: 90 + 20 * random.uniform(),
        leftDeg: 90 + 20 * random.uniform()
      }),
      family,
      random
    );
    const heads = sharpenedIn(hips, hipCover.views[0], ['right head', 'left head'], random, 16);
    for (const key of ['right head', 'left head'])
      count(
        'heads of dogs',
        Boolean(heads[key]),
        Boolean(heads[key]) && far(heads[key], hips.known[key].imagePoint) < 5
      );
    // Heads that lie under a pelvis are hardly seen: nothing wrong is told of them.
    for (const [view, scene, keys] of [
      [
        legAxes.views[0],
        legsScene({ seed: firstSeed + i, right: leg(random), left: leg(random) }),
        ['right hip', 'left hip']
      ],
      [
        pelvisSide.views[0],
        spineSideScene({
          seed: firstSeed + i,
          incidenceDeg: 50,
          tiltDeg: 14,
          lordosisDeg: 50,
          kyphosisDeg: 40
        }),
        ['hip right', 'hip left']
      ]
    ] as const) {
      const picture = bodyPicture(scene, family, random);
      const inGuide = (key: string) => ({ 'hip right': 'hip 1', 'hip left': 'hip 2' })[key] ?? key;
      const placed = Object.fromEntries(
        keys.map((key) => [inGuide(key), pressed(random, picture.known[key].imagePoint, 18)])
      );
      const found = sharpenedBy(view, placed, patchOfRaster(picture.raster));
      for (const key of keys) {
        const told = found[inGuide(key)];
        hidden++;
        if (told && far(told, picture.known[key].imagePoint) > 8) misled++;
      }
    }
    const pairs: [
      string,
      ReturnType<typeof bodyPicture>,
      GuideView,
      readonly (readonly [string, string])[]
    ][] = [
      [
        'joint surfaces of stifles',
        bodyPicture(
          dogStifleScene({ seed: firstSeed + i, plateauDeg: 18 + 10 * random.uniform() }),
          family,
          random
        ),
        plateauAngle.views[0],
        [['plateau front', 'plateau back']]
      ],
      [
        'end plates from the front',
        bodyPicture(spineFrontScene({ seed: firstSeed + i, curves }), family, random),
        spineCurve.views[0],
        spineCurve.views[0].lines!
      ]
    ];
    for (const [name, picture, view, lines] of pairs) {
      const seen = lines.filter((ends) => ends.every((key) => picture.known[key]?.inPicture));
      for (const [a, b] of seen) {
        const truth = [a, b].map((key) => picture.known[key].imagePoint);
        const found = sharpenedIn(picture, view, [a, b], random, 0.07 * far(truth[0], truth[1]));
        count(
          name,
          Boolean(found[a]),
          Boolean(found[a]) && linesDeg(truth[0], truth[1], found[a], found[b]) < 2
        );
      }
    }
    for (const [k, from] of (['front', 'side'] as const).entries()) {
      const picture = bodyPicture(wristScene(wrist, from), family, random);
      const [near, distant] = ['radius axis near', 'radius axis far'].map(
        (key) => picture.known[key].imagePoint
      );
      const on = (share: number) => ({
        x: distant.x + share * (near.x - distant.x),
        y: distant.y + share * (near.y - distant.y)
      });
      const placed = {
        'axis upper': pressed(random, on(0.55), 7),
        'axis lower': pressed(random, on(0.05), 7)
      };
      const found = sharpenedBy(distalRadius.views[k], placed, patchOfRaster(picture.raster));
      const told = Boolean(found['axis upper']);
      count(
        `shafts of the radius, ${from}`,
        told,
        told && linesDeg(near, distant, found['axis upper'], found['axis lower']) < 1
      );
    }
  }
  return [
    ...[...tallies].flatMap(([name, { right, told, all }]) => [
      { name: `${name}: told that are right`, right, of: told, must: 0.97 },
      { name: `${name}: told and right, of all`, right, of: all, must: 0.2 }
    ]),
    { name: 'heads: told ± of the middle holds', right: holds.right, of: holds.all, must: 0.93 },
    { name: 'heads under a pelvis: nothing wrong told', right: hidden - misled, of: hidden, must: 0.97 },
    { name: 'pictures without a head: nothing told', right: without - falsely, of: without, must: 0.98 }
  ];
}

const roots = 80;
const mouths = 6;
/** A tip that is off by no more than this share of the root is right: two thirds of a millimetre of an ordinary one. */
const tipShare = 0.05;

/** Ends of roots from rough presses: what is told, and is it right. */
export function truthOfRoots(): Truth[] {
  const rows = { drawn: { right: 0, told: 0, all: 0 }, simulated: { right: 0, told: 0, all: 0 } };
  const holds = { right: 0, all: 0 };
  const axes = { right: 0, all: 0 };
  let falsely = 0;
  let bare = 0;
  const count = (
    kind: keyof typeof rows,
    found: ReturnType<typeof sharpenedBy>,
    tip: Point,
    long: number
  ) => {
    const row = rows[kind];
    row.all++;
    if (!found.apex) return;
    row.told++;
    row.right += Number(far(found.apex, tip) < tipShare * long);
    if (kind === 'simulated') return;
    // Both ways together, 95 of 100.
    holds.all++;
    holds.right += Number(far(found.apex, tip) <= 2.45 * found.apex.uncertaintyPx);
  };
  for (let i = 0; i < roots; i++)
    for (const root of [true, false]) {
      if (!root && i % 2 === 1) continue;
      const random = seededRandom(firstSeed + 900 + i);
      const drawn = toothRoot(families[i % 4], random, { root });
      const { entrance, low, lowHalfPx, tip } = drawn;
      const long = far(entrance, tip);
      const placed = {
        'canal 1': pressed(random, entrance, 0.04 * long),
        'canal 3': pressed(random, low, 0.03 * long),
        apex: pressed(random, tip, 0.06 * long)
      };
      const found = sharpenedBy(workingLength.views[0], placed, patchOfRaster(drawn.raster));
      if (!root) {
        bare++;
        falsely += Number(Boolean(found.apex));
        continue;
      }
      count('drawn', found, tip, long);
      if (!found['canal 3']) continue;
      axes.all++;
      // How far it lies from the root's middle, square to the way down.
      const [dx, dy] = [tip.x - low.x, tip.y - low.y];
      const { x, y } = found['canal 3'];
      const off = Math.abs((x - low.x) * dy - (y - low.y) * dx) / Math.hypot(dx, dy);
      axes.right += Number(off < 0.3 * lowHalfPx);
    }
  for (let i = 0; i < mouths; i++) {
    const teeth = mouth(ordinaryMouth(firstSeed + i));
    for (const [k, tooth] of ([11, 13, 22, 33, 35, 42, 44] as const).entries()) {
      const random = seededRandom(firstSeed + 100 * i + k);
      const fine = toothView(teeth, [tooth], 'periapical', false);
      const view = { ...fine, pitchMm: fine.pitchMm * 2, width: fine.width / 2, height: fine.height / 2 };
      const bodies = [mouthBody(teeth, beamTeeth(teeth, [tooth], 'periapical'))];
      const { raster, known } = bodyPicture({ bodies, view }, families[(i + k) % 4], random);
      const at = (name: string) => known[`${tooth} ${name}`];
      if (!at('apex')?.inPicture) continue;
      const tip = at('apex').imagePoint;
      const necks = (['mesial', 'distal'] as const).map((side) => at(`neck ${side}`).imagePoint);
      const long = far(tip, { x: (necks[0].x + necks[1].x) / 2, y: (necks[0].y + necks[1].y) / 2 });
      const placed = {
        'mesial junction': pressed(random, necks[0], 0.03 * long),
        'distal junction': pressed(random, necks[1], 0.03 * long),
        apex: pressed(random, tip, 0.06 * long)
      };
      count('simulated', sharpenedBy(crestalBone.views[0], placed, patchOfRaster(raster)), tip, long);
    }
  }
  return [
    ...(
      [
        ['drawn', 0.4],
        // Roots of the simulator end in a point that the eye too finds hard.
        ['simulated', 0.15]
      ] as const
    ).flatMap(([name, must]) => {
      const { right, told, all } = rows[name];
      return [
        { name: `roots, ${name}: tips told that are right, to 5 % of the root`, right, of: told, must: 0.95 },
        { name: `roots, ${name}: tips told and right, of all`, right, of: all, must }
      ];
    }),
    { name: 'roots, drawn: told ± of the tip holds', right: holds.right, of: holds.all, must: 0.93 },
    { name: 'roots, drawn: middles told that are right', right: axes.right, of: axes.all, must: 0.95 },
    { name: 'bone without a root: nothing told', right: bare - falsely, of: bare, must: 0.98 }
  ];
}

const leg = (random: SeededRandom) => ({
  femurMm: 410 + 40 * random.uniform(),
  tibiaMm: 345 + 30 * random.uniform(),
  mLdfaDeg: 84 + 8 * random.uniform(),
  mPtaDeg: 84 + 6 * random.uniform()
});
const far = (a: Point, b: Point) => Math.hypot(a.x - b.x, a.y - b.y);
const pressed = (random: SeededRandom, { x, y }: Point, off: number): PlacedPoint => ({
  x: x + off * (2 * random.uniform() - 1),
  y: y + off * (2 * random.uniform() - 1),
  uncertaintyPx: 2
});
const headView: GuideView = {
  key: 'joint',
  name: 'Joint',
  landmarks: [],
  sharpens: [{ kind: 'round', landmark: 'head' }]
};
const sharpenedIn = (
  { raster, known }: ReturnType<typeof bodyPicture>,
  view: GuideView,
  keys: readonly string[],
  random: SeededRandom,
  off: number
) =>
  sharpenedBy(
    view,
    Object.fromEntries(keys.map((key) => [key, pressed(random, known[key].imagePoint, off)])),
    patchOfRaster(raster)
  );
