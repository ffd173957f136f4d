/** The simulated devices of the demo clinic, by room. */
export interface DemoDevice {
  name: string;
  room: 'Teeth' | 'Bones' | 'Animals' | 'Eyes';
  kind: 'intraoral-sensor' | 'panel';
}

export const devices: readonly DemoDevice[] = [
  { name: 'Sensor 1', room: 'Teeth', kind: 'intraoral-sensor' },
  { name: 'Panel 1', room: 'Bones', kind: 'panel' },
  { name: 'Panel 2', room: 'Animals', kind: 'panel' },
  { name: 'Sensor 2', room: 'Animals', kind: 'intraoral-sensor' }
];

/** Each device comes in with a code of its own, made of the launcher's. */
export const deviceCode = (code: string, name: string): string => `${code} ${name}`;
