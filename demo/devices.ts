import type { speakingKinds } from '../src/lib/core/devices/deviceKind';

/** The simulated devices of the demo clinic, by room. */
export interface DemoDevice {
  name: string;
  room: 'Teeth' | 'Bones' | 'Animals' | 'Eyes';
  kind: (typeof speakingKinds)[number];
}

export const devices: readonly DemoDevice[] = [
  { name: 'Sensor 1', room: 'Teeth', kind: 'intraoral-sensor' },
  { name: 'Plates 1', room: 'Teeth', kind: 'plate-scanner' },
  { name: 'Wide views', room: 'Teeth', kind: 'folder' },
  { name: 'Panel 1', room: 'Bones', kind: 'panel' },
  { name: 'Panel 2', room: 'Animals', kind: 'panel' },
  { name: 'Sensor 2', room: 'Animals', kind: 'intraoral-sensor' }
];

/** Each device comes in with a code of its own, made of the launcher's. */
export const deviceCode = (code: string, name: string): string => `${code} ${name}`;
