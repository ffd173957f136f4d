import { angleAtDeg, distance } from '../geometry';
import { type Guide, landmark } from './guide';

const petersson = {
  author: 'Petersson and Redlund-Johnell',
  year: 1984,
  title: 'The subacromial space in normal shoulder radiographs',
  fromMemory: true as const
};
const moor = {
  author: 'Moor, Bouaicha, Rothenfluh, Sukthankar and Gerber',
  year: 2013,
  title:
    'Is there an association between the individual anatomy of the scapula and the development of rotator cuff tears or osteoarthritis of the glenohumeral joint?',
  fromMemory: true as const
};
const sande = {
  author: 'van de Sande and Rozing',
  year: 2006,
  title: 'Proximal migration can be measured accurately on standardized anteroposterior shoulder radiographs',
  fromMemory: true as const
};

/** The shoulder from the front: the room under the acromion, how high the head stands, and how far the acromion reaches. */
export const shoulderRoom: Guide = {
  key: 'shoulder-room',
  version: 1,
  name: 'Shoulder: room under the acromion',
  trade: 'bones',
  views: [
    {
      key: 'front',
      name: 'Shoulder from the front, its socket seen edge on',
      lines: [
        ['socket upper', 'socket lower'],
        ['socket lower', 'acromion edge'],
        ['acromion under', 'head top']
      ],
      sharpens: [{ kind: 'round', landmark: 'head middle' }],
      landmarks: [
        landmark(
          'head middle',
          'Middle of the head',
          'Middle of the round head of the upper arm bone',
          0.43,
          0.465
        ),
        landmark(
          'head top',
          'Head, highest point',
          'Where the head comes nearest to the acromion',
          0.42,
          0.282
        ),
        landmark(
          'acromion under',
          'Acromion, under side',
          'The point of its dense under side straight above the head’s highest point',
          0.42,
          0.164
        ),
        landmark(
          'acromion edge',
          'Acromion, outer edge',
          'The outermost point of the acromion',
          0.225,
          0.235
        ),
        landmark('socket upper', 'Socket, upper end', 'The upper end of the socket’s rim', 0.645, 0.328),
        landmark('socket lower', 'Socket, lower end', 'The lower end of the socket’s rim', 0.645, 0.608)
      ]
    }
  ],
  formulas: [
    {
      key: 'room',
      name: 'Room under the acromion',
      unit: 'mm',
      power: 1,
      needs: ['front.acromion under', 'front.head top'],
      of: (at) => distance(at('front.acromion under'), at('front.head top')),
      source: petersson,
      normal: { low: 6, high: 14, source: petersson },
      mind: 'Only where the patient stood and the socket is seen edge on; lying, or turned, it looks wider or narrower.'
    },
    {
      key: 'height of the head',
      name: 'Height of the head (migration index)',
      unit: '',
      power: 0,
      needs: ['front.acromion under', 'front.head middle', 'front.head top'],
      of: (at) => {
        const radius = distance(at('front.head middle'), at('front.head top'));
        return radius > 0
          ? distance(at('front.head middle'), at('front.acromion under')) / radius
          : Number.NaN;
      },
      source: sande,
      mind: 'Middle of the head to the acromion, in radii of the head: it needs no scale. The smaller, the higher the head stands.'
    },
    {
      key: 'shoulder angle',
      name: 'Critical shoulder angle',
      unit: 'deg',
      power: 0,
      needs: ['front.socket upper', 'front.socket lower', 'front.acromion edge'],
      of: (at) => angleAtDeg(at('front.socket upper'), at('front.socket lower'), at('front.acromion edge')),
      source: moor,
      normal: { low: 30, high: 35, source: moor },
      mind: 'A shoulder blade that is turned forwards or tipped changes it by several degrees.'
    }
  ]
};
