import { z } from 'zod';
import { deviceUses } from '../../devices/deviceKind';
import { trayEventKind } from './eventKind';

/** The device with which the slots of one use are taken in this series, so that nobody is asked again. */
export const deviceSettled = trayEventKind({
  kind: 'device-settled',
  version: 1,
  schema: z.strictObject({ use: z.enum(deviceUses), deviceId: z.uuid() }),
  upcasters: {},
  apply: (tray, { use, deviceId }) =>
    tray.settled[use] === deviceId ? tray : { ...tray, settled: { ...tray.settled, [use]: deviceId } }
});
