/** Kinds of devices at a chair. */
export const deviceKinds = [
  'intraoral-sensor',
  'plate-scanner',
  'panel',
  'camera',
  'folder',
  'phone'
] as const;
export type DeviceKind = (typeof deviceKinds)[number];
/** Those that speak the device protocol. */
export const speakingKinds = [
  'intraoral-sensor',
  'plate-scanner',
  'panel',
  'folder'
] as const satisfies readonly DeviceKind[];

/** What a device has to be good for: slots of one use can all be taken with the same one. */
export const deviceUses = ['in the mouth', 'from outside', 'photographs', 'rings', 'scans'] as const;
export type DeviceUse = (typeof deviceUses)[number];

interface KindFacts {
  words: string;
  /** What it is for; a folder takes what any device has written. */
  uses: readonly DeviceUse[];
  /** Those that catch the picture while the patient is there go before those that bring it later. */
  brings: 'at once' | 'later' | 'from elsewhere';
}

const facts: Record<DeviceKind, KindFacts> = {
  'intraoral-sensor': { words: 'intraoral sensor', uses: ['in the mouth'], brings: 'at once' },
  'plate-scanner': { words: 'plate scanner', uses: ['in the mouth'], brings: 'later' },
  panel: { words: 'flat panel', uses: ['from outside'], brings: 'at once' },
  camera: { words: 'camera', uses: ['photographs'], brings: 'at once' },
  folder: { words: 'watched folder', uses: deviceUses, brings: 'from elsewhere' },
  phone: { words: 'phone', uses: ['photographs'], brings: 'later' }
};

/** One of the ways in which a plate scanner reads: finer takes longer. */
export interface Fineness {
  id: string;
  words: string;
  pitchMm: number;
  secondsPerPlate: number;
}

/** Kinds that go on when every slot has its take: what they read then lies on the bench. */
export const readsOntoBench = (kind: string): boolean => kind === 'plate-scanner';

export const isDeviceKind = (kind: string): kind is DeviceKind =>
  (deviceKinds as readonly string[]).includes(kind);

/** `deviceKindWords('panel')` is "flat panel"; a kind from elsewhere stands for itself. */
export const deviceKindWords = (kind: string): string => (isDeviceKind(kind) ? facts[kind].words : kind);

/** Whether a kind of device is good for a use. */
export const isFor = (kind: DeviceKind, use: DeviceUse): boolean => facts[kind].uses.includes(use);

const order = ['at once', 'later', 'from elsewhere'] as const;

/** `comesBefore('panel')` is 0: the lower, the sooner it is taken where several would do. */
export const comesBefore = (kind: string): number =>
  isDeviceKind(kind) ? order.indexOf(facts[kind].brings) : order.length;
