/** What can go wrong with one exposure of an intraoral sensor. */
export const sensorFaults = [
  'under',
  'over',
  'cut off',
  'moved',
  'nothing',
  'clipped',
  'dropped rows',
  'turned',
  'mirrored'
] as const;
export type SensorFault = (typeof sensorFaults)[number];
