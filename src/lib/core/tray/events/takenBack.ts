import { z } from 'zod';
import { trayEventKind } from './eventKind';

/**
 * Earlier events of this tray count as if they had never been. Folding the whole log leaves them out (`liveEvents`), so
 * applying this one by itself does nothing. Taking back a taking-back makes its events count again.
 */
export const takenBack = trayEventKind({
  kind: 'taken-back',
  version: 1,
  schema: z.strictObject({ seqs: z.array(z.number().int().min(1)).min(1).max(50) }),
  upcasters: {},
  apply: (tray) => tray
});
