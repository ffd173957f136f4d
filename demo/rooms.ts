import type { Place } from '../src/lib/core/anatomy/place';
import { gazes, type Gaze } from '../src/lib/core/anatomy/places/eye';
import type { PlacedPoint } from '../src/lib/core/calibration/scale';
import { wristScene } from '../src/lib/core/phantom/bones/wrist';
import { straightAhead } from '../src/lib/core/phantom/eye/mirror';
import type { RingImageWish } from '../src/lib/core/phantom/eye/ringImage';
import { quillTarget } from '../src/lib/core/cornea/target';
import type { Vec3 } from '../src/lib/core/phantom/space';
import type { FigureWish } from '../src/lib/core/phantom/photo/figure';
import { ordinaryMouth } from '../src/lib/core/phantom/teeth/ordinaryMouth';
import { projected } from '../src/lib/core/phantom/xray/view';
import type { PictureKind } from '../src/lib/core/picture/pictureView';
import type { ShippedPattern } from '../src/lib/core/tray/shipped/shippedPattern';
import type { StoryText } from '../src/lib/core/visit/story';
import { rightWrist } from '../src/lib/core/tray/shipped/wrist';
import { inClinic } from '../src/lib/server/database/connection';
import { newId } from '../src/lib/server/ids';
import type { Caller } from '../src/lib/server/people/caller';
import { actWish, keepAct } from '../src/lib/server/pictures/changes';
import { linkToPlaces } from '../src/lib/server/pictures/links';
import { pictureOfKey } from '../src/lib/server/pictures/queries';
import { addToTray, changeTray, heldFirstTray } from '../src/lib/server/trays/trays';
import { type RenderJob, type Rendered, ballOverDetectorMm } from '../standins/render/jobs';
import type { RenderPool } from '../standins/render/pool';
import type { Letter } from './letter';
import { type DemoVisit, storeRendered } from './picture';

/** A visit whose pictures lie on the bench, linked to what they show, or in the slots of a pattern. */
export interface RoomVisit {
  patient: string;
  room: 'Teeth' | 'Bones' | 'Animals' | 'Eyes';
  daysAgo: number;
  reason: string;
  device: { name: string; model: string; kind: PictureKind };
  pattern?: ShippedPattern;
  story?: Partial<Record<StoryText, string>>;
  letters?: readonly Letter[];
  pictures: RoomPicture[];
}

interface RoomPicture {
  name: string;
  job: RenderJob;
  /** Of the visit's pattern. */
  slotId?: string;
  shows?: Place[];
  /** Where it is another one than the visit's. */
  device?: RoomVisit['device'];
  made?: MadeOfIt;
}

/** What somebody made of a picture already: a scale from the steel ball in it, a length. */
interface MadeOfIt {
  scale: [PlacedPoint, PlacedPoint];
  knownMm: number;
  length: [PlacedPoint, PlacedPoint];
}

const panel = { name: 'Panel 1', model: 'Simulated flat panel', kind: 'radiograph' } as const;
const plates = { name: 'Plate reader', model: 'Simulated plate scanner', kind: 'radiograph' } as const;
const probe = { name: 'Probe 1', model: 'Simulated ultrasound probe', kind: 'ultrasound' } as const;
const rings = { name: 'Quill bowl', model: 'Simulated topographer', kind: 'rings' } as const;
const camera = { name: 'Room camera', model: 'Simulated camera', kind: 'photograph' } as const;

const person = { whose: 'person' } as const;
const animal = { whose: 'animal' } as const;
const secondsApart = 40;

const ballMm = 10;
const ballToleranceMm = 0.02;
const wrist = {
  seed: 31,
  side: 'right' as const,
  inclinationDeg: 23,
  volarTiltDeg: 11,
  ulnarVarianceMm: -0.4,
  break: { parts: 2 as const, dorsalTiltDeg: 21, shorteningMm: 4, radialShiftMm: 2 }
};

/** The wrist's front view, scaled over its ball, and the length of the radius' joint surface. */
function wristMade(): MadeOfIt {
  const { view, bodies, ball } = wristScene(wrist, 'front', {
    diameterMm: ballMm,
    overDetectorMm: ballOverDetectorMm
  });
  const at = (point: Vec3): PlacedPoint => ({ ...projected(view, point), uncertaintyPx: 0.9 });
  const [x, y, z] = ball!;
  return {
    scale: [at([x - ballMm / 2, y, z]), at([x + ballMm / 2, y, z])],
    knownMm: ballMm,
    length: [at(bodies[0].landmarks['radial styloid']), at(bodies[0].landmarks['ulnar corner'])]
  };
}

/** The net-mender's left eye: steep below, and steepening. Nine gazes, one of them spoilt by a blink. */
function eyeTakes(coneMm: number): RoomPicture[] {
  const turns: Record<Gaze, [number, number]> = {
    'straight ahead': [0, 0],
    'towards the nose': [-14, 0],
    'towards the temple': [14, 0],
    up: [0, 13],
    down: [0, -13],
    'up and nose': [-10, 10],
    'up and temple': [10, 10],
    'down and nose': [-10, -10],
    'down and temple': [10, -10]
  };
  return gazes.map((name, i) => {
    const [right, up] = turns[name];
    const wish: RingImageWish = {
      cornea: {
        flatMm: 7.7,
        steepMm: 7.3,
        axisDeg: 15,
        q: -0.35,
        cone: { x: 0.5, y: 1.2, heightMm: coneMm, widthMm: 1.1 }
      },
      pose: { ...straightAhead, gazeRightDeg: right, gazeUpDeg: up, shiftMm: [0.04 * i, -0.03 * i, 0.02] },
      target: quillTarget,
      seed: 500 + i,
      nose: right < 0 ? { side: 'left', reachMm: 1.6 } : undefined,
      tearBreak: i > 6 ? 0.12 : 0,
      blink: name === 'up and temple'
    };
    return {
      name: `Left eye, ${name}`,
      job: { kind: 'eye', wish },
      shows: [{ kind: 'eye', side: 'left', gaze: name }]
    };
  });
}

const curve = (cobbDeg: number, seed: number): RoomPicture => ({
  name: 'Spine from the front',
  shows: [{ kind: 'spine', region: 'chest and loin', ...person }],
  job: {
    kind: 'spine front',
    wish: {
      seed: 71,
      curves: [
        { upper: 'T5', lower: 'T11', cobbDeg, convex: 'right' },
        { upper: 'T11', lower: 'L4', cobbDeg: cobbDeg * 0.55, convex: 'left' }
      ]
    },
    seed
  }
});

const stander: FigureWish = {
  seed: 4,
  head: { leftMm: 8, frontMm: 12, rollDeg: 2, pitchDeg: 0 },
  chest: { leftMm: -14, frontMm: 0, rollDeg: -3, pitchDeg: 2 },
  pelvis: { leftMm: 10, frontMm: 4, rollDeg: 3, pitchDeg: 4 }
};

export const roomVisits: readonly RoomVisit[] = [
  {
    patient: 'QS-1040',
    room: 'Bones',
    daysAgo: 0,
    reason: 'Wrist, after a fall',
    story: {
      reason: 'Fell on the outstretched right hand while landing kelp',
      question: 'Is the radius broken, and does the joint line stand?',
      history:
        'This morning at low tide. Swollen, tender over the end of the radius; fingers warm, feeling whole.',
      plan: 'Cast, and a picture in it',
      colleague: 'The steel ball beside the wrist is for scale: 10 mm across.'
    },
    letters: [
      {
        fileName: 'Letter from the harbour nurse.pdf',
        from: 'Harbour first aid, Tern Quay',
        paragraphs: [
          'Seen at half past six this morning on the landing. Fell on the outstretched right hand from about a metre. No blow to the head.',
          'The wrist was splinted in the position found and cooled. Two tablets of the usual painkiller at seven. Last meal at five.',
          'No medicines, no allergies known. Please look at the joint line; the patient cuts kelp for a living.'
        ]
      }
    ],
    device: panel,
    pattern: rightWrist,
    pictures: [
      {
        name: 'Wrist from the front',
        slotId: 'front',
        job: { kind: 'wrist', wish: wrist, from: 'front', ballMm, seed: 1 },
        made: wristMade()
      },
      {
        name: 'Wrist from the side',
        slotId: 'side',
        job: { kind: 'wrist', wish: wrist, from: 'side', ballMm, seed: 2 }
      }
    ]
  },
  {
    patient: 'QS-1046',
    room: 'Bones',
    daysAgo: 364,
    reason: 'Spine',
    device: panel,
    pictures: [curve(21, 11)]
  },
  {
    patient: 'QS-1046',
    room: 'Bones',
    daysAgo: 182,
    reason: 'Spine, follow-up',
    device: panel,
    pictures: [curve(26, 12)]
  },
  {
    patient: 'QS-1046',
    room: 'Bones',
    daysAgo: 7,
    reason: 'Spine, follow-up',
    story: {
      reason: 'Spinal curve, third follow-up',
      question: 'Has the curve grown since spring?',
      history: 'Rows with the island eight. Curve first seen a year ago; no pain.'
    },
    device: panel,
    pictures: [
      curve(29, 13),
      {
        name: 'Pelvis and trunk from the side',
        shows: [{ kind: 'spine', region: 'whole', ...person }],
        job: {
          kind: 'spine side',
          wish: { seed: 71, incidenceDeg: 51, tiltDeg: 13, lordosisDeg: 52, kyphosisDeg: 38 },
          seed: 14
        }
      }
    ]
  },
  {
    patient: 'QS-1068',
    room: 'Bones',
    daysAgo: 33,
    reason: 'Legs of unequal length',
    device: panel,
    pictures: [
      {
        name: 'Legs, standing',
        shows: [{ kind: 'bone', region: 'whole leg', side: 'both', ...person }],
        job: {
          kind: 'legs',
          wish: {
            seed: 9,
            right: { femurMm: 431, tibiaMm: 362, mLdfaDeg: 88, mPtaDeg: 86 },
            left: { femurMm: 440, tibiaMm: 366, mLdfaDeg: 88, mPtaDeg: 82 }
          },
          seed: 3
        }
      },
      ...(['front', 'right', 'left'] as const).map((from): RoomPicture => ({
        name: `Posture from the ${from}`,
        shows: [{ kind: 'photograph', view: `posture from the ${from}` }],
        device: camera,
        job: { kind: 'figure', wish: stander, from }
      }))
    ]
  },
  {
    patient: 'QS-1075',
    room: 'Bones',
    daysAgo: 96,
    reason: 'Neck, after a jolt at sea',
    device: panel,
    pictures: (['neutral', 'bent', 'stretched'] as const).map((position, i) => ({
      name: `Neck from the side, ${position}`,
      shows: [{ kind: 'spine', region: 'neck', ...person }],
      job: { kind: 'neck', wish: { seed: 15, position, segmentsDeg: [3, 4, 2, 4, 4] }, seed: 20 + i }
    }))
  },
  {
    patient: 'QS-A250',
    room: 'Animals',
    daysAgo: 33,
    reason: 'Hips, before breeding',
    device: panel,
    pictures: [
      {
        name: 'Hips from below',
        shows: [{ kind: 'bone', region: 'hip', side: 'both', ...animal }],
        job: { kind: 'dog hips', wish: { seed: 6, rightDeg: 107, leftDeg: 98 }, seed: 30 }
      }
    ]
  },
  {
    patient: 'QS-A231',
    room: 'Animals',
    daysAgo: 51,
    reason: 'Lame, left hind',
    device: panel,
    pictures: [
      {
        name: 'Stifle from the side',
        shows: [{ kind: 'bone', region: 'stifle', side: 'left', ...animal }],
        job: { kind: 'dog stifle', wish: { seed: 8, plateauDeg: 27 }, seed: 31 }
      },
      {
        name: 'Chest from the side',
        shows: [{ kind: 'trunk', region: 'chest', ...animal }],
        job: { kind: 'dog chest', wish: { seed: 8, lengthInVertebrae: 5.9, widthInVertebrae: 4.7 }, seed: 32 }
      }
    ]
  },
  {
    patient: 'QS-A215',
    room: 'Animals',
    daysAgo: 3,
    reason: 'Lame, left fore fetlock',
    device: panel,
    pictures: [
      {
        name: 'Left fore fetlock',
        shows: [{ kind: 'bone', region: 'fore fetlock', side: 'left', ...animal }],
        job: { kind: 'fetlock', wish: { seed: 2, jointDeg: 151, chip: true }, seed: 33 }
      }
    ]
  },
  {
    patient: 'QS-A209',
    room: 'Animals',
    daysAgo: 140,
    reason: 'Teeth, eats on one side',
    device: plates,
    pictures: [
      {
        name: 'Lower right jaw',
        shows: [
          { kind: 'animal tooth', species: 'cat', tooth: 407 },
          { kind: 'animal tooth', species: 'cat', tooth: 408 },
          { kind: 'animal tooth', species: 'cat', tooth: 409 }
        ],
        job: { kind: 'animal jaw', wish: { seed: 3, species: 'cat', resorbing: 407 }, seed: 34 }
      }
    ]
  },
  {
    patient: 'QS-A222',
    room: 'Animals',
    daysAgo: 12,
    reason: 'In lamb?',
    device: probe,
    pictures: [
      {
        name: 'Scan loop',
        shows: [{ kind: 'trunk', region: 'belly', ...animal }],
        job: { kind: 'ewe', seed: 5, burnedIn: ['OYSTERGAARD FENNA', 'EWE 4471'] }
      }
    ]
  },
  {
    patient: 'QS-1023',
    room: 'Eyes',
    daysAgo: 14,
    reason: 'Topography, left eye',
    device: rings,
    pictures: eyeTakes(0.034)
  },
  {
    patient: 'QS-1011',
    room: 'Teeth',
    daysAgo: 59,
    reason: 'Overview',
    device: camera,
    pictures: [
      {
        name: 'Panoramic',
        shows: [{ kind: 'wide view', view: 'panoramic' }],
        job: { kind: 'panoramic', mouth: { ...ordinaryMouth(11), seed: 11 }, seed: 40 }
      },
      {
        name: 'Mouth from the front',
        shows: [{ kind: 'photograph', view: 'bite from the front' }],
        job: { kind: 'mouth photograph', mouth: { seed: 11 }, seed: 41 }
      }
    ]
  },
  {
    patient: 'QS-1083',
    room: 'Bones',
    daysAgo: 19,
    reason: 'Shin wound from a winch',
    device: camera,
    pictures: [
      {
        name: 'Wound, left shin',
        shows: [{ kind: 'photograph', view: 'wound' }],
        job: { kind: 'wound', seed: 6, lengthMm: 37, widthMm: 15 }
      }
    ]
  }
];

/** Begins to render what is still missing of a visit's pictures; what is given back lays them in their places. */
export async function beginRoom(
  caller: Caller,
  pool: RenderPool,
  visit: DemoVisit,
  { device: usual, pattern, pictures }: RoomVisit
): Promise<() => Promise<void>> {
  const keyOf = (i: number) => `demo ${visit.visitId} bench ${i}`;
  const made: (Promise<Rendered> | null)[] = [];
  for (const [i, { job }] of pictures.entries()) {
    const known = await inClinic(caller.clinicId, (tx) => pictureOfKey(tx, keyOf(i)));
    made.push(known ? null : pool.render(job));
  }
  if (pattern) await layPattern(caller, visit, pattern);
  return async () => {
    for (const [i, { name, slotId, shows, device = usual, made: work }] of pictures.entries()) {
      const result = await made[i];
      if (!result) continue;
      const pictureId = await inClinic(caller.clinicId, async (tx) => {
        const stored = await heldFirstTray(tx, visit.visitId);
        const takeId = await storeRendered(tx, keyOf(i), visit, result, {
          from: device.name,
          model: device.model,
          kind: device.kind,
          name: slotId ? '' : name,
          by: caller.name,
          secondsLater: i * secondsApart
        });
        await addToTray(tx, stored, [{ kind: 'take-added', takeId, slotId: slotId ?? null, exposed: true }], {
          name: device.name,
          userId: null
        });
        return takeId;
      });
      if (shows) await linkToPlaces(caller, newId(), { links: [{ pictureId, places: shows }] });
      if (work) await keepWork(caller, pictureId, work);
    }
  };
}

async function layPattern(
  caller: Caller,
  visit: DemoVisit,
  { pattern, route }: ShippedPattern
): Promise<void> {
  await inClinic(caller.clinicId, async (tx) => {
    const stored = await heldFirstTray(tx, visit.visitId);
    if (stored.tray.laid) return;
    await changeTray(tx, stored, [{ kind: 'tray-laid', pattern: pattern.ref, route: route.ref }], caller);
  });
}

async function keepWork(caller: Caller, pictureId: string, work: MadeOfIt): Promise<void> {
  const changes = [
    {
      kind: 'scale',
      item: null,
      body: {
        from: 'line',
        ends: work.scale,
        knownMm: work.knownMm,
        knownUncertaintyMm: ballToleranceMm,
        aspect: 1
      }
    },
    { kind: 'length', item: newId(), body: { ends: work.length } }
  ];
  for (const change of changes)
    await keepAct(caller, pictureId, newId(), actWish.parse({ changes: [change] }));
}
