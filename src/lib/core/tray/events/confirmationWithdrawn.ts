import { z } from 'zod';
import { slotId } from '../slot';
import { changeWell } from '../takes';
import { trayEventKind } from './eventKind';

export const confirmationWithdrawn = trayEventKind({
  kind: 'confirmation-withdrawn',
  version: 1,
  schema: z.strictObject({ slotId }),
  upcasters: {},
  apply: (tray, event) =>
    changeWell(tray, event.slotId, (well) => (well.confirmed === null ? well : { ...well, confirmed: null }))
});
