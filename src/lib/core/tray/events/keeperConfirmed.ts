import { z } from 'zod';
import { slotId } from '../slot';
import { changeWell } from '../takes';
import { trayEventKind } from './eventKind';

const takeId = z.string().min(1).max(60);
const first = z.object({ slotId, takeId, by: z.string() });

/** A clinician stands for the keeper. The first version knew a name only, which is kept as it was. */
export const keeperConfirmed = trayEventKind({
  kind: 'keeper-confirmed',
  version: 2,
  schema: z.strictObject({ slotId, takeId, by: z.uuid().nullable(), name: z.string().max(200).nullable() }),
  upcasters: {
    1: (body) => {
      const { by: name, ...rest } = first.parse(body);
      return { ...rest, by: null, name };
    }
  },
  apply: (tray, { slotId: slot, takeId: take, by, name }) =>
    changeWell(tray, slot, (well) =>
      well.keeper === take && !(well.confirmed && well.confirmed.by === by && well.confirmed.name === name)
        ? { ...well, confirmed: { by, name } }
        : well
    )
});
