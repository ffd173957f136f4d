import { z } from 'zod';
import { slotId } from '../slot';
import { changeWell } from '../takes';
import { trayEventKind } from './eventKind';

export const keeperChosen = trayEventKind({
  kind: 'keeper-chosen',
  version: 1,
  schema: z.strictObject({ slotId, takeId: z.string().min(1).max(60) }),
  upcasters: {},
  apply: (tray, event) =>
    changeWell(tray, event.slotId, (well) =>
      well.takes.includes(event.takeId) && well.keeper !== event.takeId
        ? { ...well, keeper: event.takeId, confirmed: null }
        : well
    )
});
