import { z } from 'zod';
import { inRows } from '../../core/tray/inRows';
import { type Ref, slotsSchema } from '../../core/tray/pattern';
import { once } from '../acts/once';
import { inClinic } from '../database/connection';
import { newId } from '../ids';
import { type Caller, demand } from '../people/caller';
import { visitHead } from '../visits/visitHead';
import { putPattern } from './ownPatterns';

/** Slots in the order they are to be taken; where they lie on the tray follows from it. */
export const onceWish = z.strictObject({ slots: slotsSchema });

/** A pattern for one visit only, kept until somebody makes it one of the clinic's own. It is laid like any other. */
export async function patternForOnce(
  caller: Caller,
  visitId: string,
  key: string,
  { slots }: z.infer<typeof onceWish>
): Promise<{ pattern: Ref; route: Ref }> {
  await demand(caller, 'acquire', visitId);
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const { room } = await visitHead(tx, visitId);
      const places = inRows(slots.length);
      const pattern = { id: newId(), version: 1 };
      const wish = {
        name: 'For this once',
        trade: room.trade,
        slots: slots.map((slot, i) => ({ ...slot, at: places[i] })),
        order: slots.map(({ id }) => id)
      };
      return { pattern, route: await putPattern(tx, caller, pattern, wish, visitId) };
    })
  );
}
