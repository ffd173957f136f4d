import type { Point } from '../../raster/orientation';
import { angleAtDeg, between, offLine, turnDeg } from '../geometry';
import { type Formula, type Guide, landmark } from './guide';

const hilgenreiner = {
  author: 'Hilgenreiner',
  year: 1925,
  title: 'Zur Frühdiagnose und Frühbehandlung der angeborenen Hüftgelenkverrenkung',
  fromMemory: true as const
};
const wiberg = {
  author: 'Wiberg',
  year: 1939,
  title: 'Studies on dysplastic acetabula and congenital subluxation of the hip joint',
  fromMemory: true as const
};
const sides = ['right', 'left'] as const;
type Side = (typeof sides)[number];
const other = (side: Side): Side => (side === 'right' ? 'left' : 'right');
const cartilages = ['front.right cartilage', 'front.left cartilage'];

/** 1 where the sockets' rims lie counterclockwise of the way from this cartilage to the other one, else -1. */
function upOf(at: (key: string) => Point, side: Side): 1 | -1 {
  const [own, further] = [at(`front.${side} cartilage`), at(`front.${other(side)} cartilage`)];
  const off = offLine(at(`front.${side} rim`), own, further);
  if (off === 0) throw new RangeError('the rim lies on the line of both cartilages');
  return off > 0 ? 1 : -1;
}

const ofSide = (side: Side): Formula[] => [
  {
    key: `${side} index`,
    name: `Acetabular index, ${side}`,
    unit: 'deg',
    power: 0,
    needs: [...cartilages, `front.${side} rim`],
    of: (at) => {
      const [own, further] = [at(`front.${side} cartilage`), at(`front.${other(side)} cartilage`)];
      // From the line of both cartilages, continued outwards, up to the socket's rim.
      return 180 - angleAtDeg(further, own, at(`front.${side} rim`));
    },
    source: hilgenreiner,
    mind: 'What is usual falls with age, from about 30 degrees at birth to 20 at three years; a tilted pelvis changes it by several degrees.'
  },
  {
    key: `${side} cover`,
    name: `Centre-edge angle, ${side}`,
    unit: 'deg',
    power: 0,
    needs: [...cartilages, `front.${side} rim`, `front.${side} head`],
    of: (at) => {
      const [own, further] = [at(`front.${side} cartilage`), at(`front.${other(side)} cartilage`)];
      const up = upOf(at, side);
      const across = between(own, further);
      const upwards = { x: -up * across.y, y: up * across.x };
      const toRim = between(at(`front.${side} head`), at(`front.${side} rim`));
      // Positive where the rim stands out over the head, away from the other side.
      return up * turnDeg(upwards, toRim);
    },
    source: wiberg,
    normal: { low: 25, high: null, means: 'of grown-up people', source: wiberg },
    sign: 'Below 0 the rim does not reach over the middle of the head.'
  }
];

/** Both hips from the front: slope of the socket's roof and how far it covers the head. */
export const hipRoof: Guide = {
  key: 'hip-roof',
  version: 1,
  name: 'Roof and cover of the hips',
  trade: 'bones',
  views: [
    {
      key: 'front',
      name: 'Pelvis from the front',
      lines: [
        ['right cartilage', 'left cartilage'],
        ['right cartilage', 'right rim'],
        ['left cartilage', 'left rim'],
        ['right head', 'right rim'],
        ['left head', 'left rim']
      ],
      sharpens: (['right', 'left'] as const).map((side) => ({
        kind: 'round' as const,
        landmark: `${side} head`
      })),
      landmarks: sides.flatMap((side) => {
        const at = (out: number) => 0.5 + (side === 'right' ? -out : out);
        return [
          landmark(
            `${side} cartilage`,
            `Y-shaped cartilage, ${side}`,
            'Lowest point of the hip bone above the Y-shaped gap in the socket; in grown-up people the lower edge of the teardrop',
            at(0.16),
            0.56
          ),
          landmark(
            `${side} rim`,
            `Rim of the socket, ${side}`,
            'Outermost point of the socket’s roof',
            at(0.28),
            0.48
          ),
          landmark(
            `${side} head`,
            `Head, ${side}`,
            'Middle of the round head of the thigh bone',
            at(0.25),
            0.6
          )
        ];
      })
    }
  ],
  formulas: sides.flatMap(ofSide)
};
