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
}

const facts: Record<DeviceKind, KindFacts> = {
  'intraoral-sensor': { words: 'intraoral sensor', uses: ['in the mouth'] },
  'plate-scanner': { words: 'plate scanner', uses: ['in the mouth'] },
  panel: { words: 'flat panel', uses: ['from outside'] },
  camera: { words: 'camera', uses: ['photographs'] },
  folder: { words: 'watched folder', uses: deviceUses },
  phone: { words: 'phone', uses: ['photographs'] }
};

export const isDeviceKind = (kind: string): kind is DeviceKind =>
  (deviceKinds as readonly string[]).includes(kind);

/** `deviceKindWords('panel')` is "flat panel"; a kind from elsewhere stands for itself. */
export const deviceKindWords = (kind: string): string => (isDeviceKind(kind) ? facts[kind].words : kind);

/** Whether a kind of device is good for a use. */
export const isFor = (kind: DeviceKind, use: DeviceUse): boolean => facts[kind].uses.includes(use);
