import { randomUUID } from 'node:crypto';
import { actWish, keepAct } from '../../src/lib/server/pictures/changes';
import type { useClinic } from './clinic';

const at = (x: number, y: number) => ({ x, y, uncertaintyPx: 0.5 });

/** Draws a length on a picture, and calls it something where that is wished. */
export const drawLength = (clinic: ReturnType<typeof useClinic>, pictureId: string, name = '') =>
  keepAct(
    clinic.caller(),
    pictureId,
    randomUUID(),
    actWish.parse({
      changes: [
        { kind: 'length', item: 'length-one', body: { ends: [at(40, 60), at(140, 60)] } },
        ...(name ? [{ kind: 'note', item: 'length-one', body: { name, hidden: false, repeatOf: null } }] : [])
      ]
    })
  );
