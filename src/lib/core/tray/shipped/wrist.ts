import type { Slot } from '../slot';
import { shippedPattern } from './shippedPattern';

function wristViews(side: 'right' | 'left'): Slot[] {
  const places = [{ kind: 'bone' as const, region: 'wrist' as const, side, whose: 'person' as const }];
  const upright = { quarterTurns: 0, mirrored: false } as const;
  return [
    {
      id: 'front',
      name: `${side === 'right' ? 'Right' : 'Left'} wrist, from the front`,
      places,
      projection: 'back to front',
      orientation: upright,
      directions: [side === 'right' ? 'R' : 'L', 'F'],
      at: { x: 0.3, y: 0.5 },
      shape: 'standing'
    },
    {
      id: 'side',
      name: `${side === 'right' ? 'Right' : 'Left'} wrist, from the side`,
      places,
      projection: 'from the side',
      orientation: upright,
      directions: ['P', 'F'],
      at: { x: 0.7, y: 0.5 },
      shape: 'standing'
    }
  ];
}

/** A wrist in its usual two views. */
export const rightWrist = shippedPattern(
  { pattern: '018f0000-0000-7000-8000-00000000b101', route: '018f0000-0000-7000-8000-00000000b102' },
  'Right wrist',
  'bones',
  wristViews('right')
);

export const leftWrist = shippedPattern(
  { pattern: '018f0000-0000-7000-8000-00000000b201', route: '018f0000-0000-7000-8000-00000000b202' },
  'Left wrist',
  'bones',
  wristViews('left')
);
