import { randomUUID } from 'node:crypto';
import { actWish, keepAct } from '../../src/lib/server/pictures/changes';
import type { useClinic } from './clinic';

/** What is drawn has a number of its own, by which its report knows it too. */
const lengthId = '0198c0de-0000-4000-8000-00000000a001';
const at = (x: number, y: number) => ({ x, y, uncertaintyPx: 0.5 });

/** Changes a picture as somebody in the clinic does. */
export const changeIt = (clinic: ReturnType<typeof useClinic>, pictureId: string, changes: unknown[]) =>
  keepAct(clinic.caller(), pictureId, randomUUID(), actWish.parse({ changes }));

/** Draws a length on a picture, and calls it something where that is wished. */
export const drawLength = (clinic: ReturnType<typeof useClinic>, pictureId: string, name = '') =>
  changeIt(clinic, pictureId, [
    { kind: 'length', item: lengthId, body: { ends: [at(40, 60), at(140, 60)] } },
    ...(name ? [{ kind: 'note', item: lengthId, body: { name, hidden: false, repeatOf: null } }] : [])
  ]);
