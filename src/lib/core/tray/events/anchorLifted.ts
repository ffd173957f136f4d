import { z } from 'zod';
import { nextEmpty } from '../route';
import { trayEventKind } from './eventKind';

export const anchorLifted = trayEventKind({
  kind: 'anchor-lifted',
  version: 1,
  schema: z.strictObject({}) as z.ZodType<object>,
  upcasters: {},
  apply: (tray) =>
    tray.anchored ? { ...tray, anchored: false, present: nextEmpty(tray, tray.present) } : tray
});
