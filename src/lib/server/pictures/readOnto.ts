import { randomUUID } from 'node:crypto';
import { isPresentationState } from '../../core/dicom/objects/presentationState';
import { NotReadable, readDicom } from '../../core/dicom/read';
import { code } from '../../core/dicom/readValues';
import { isReport, presentationRead, reportRead, sopClassOf } from '../../core/dicom/readBack';
import { inClinic } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import type { Size } from '../../core/raster/orientation';
import { Problem } from '../problem';
import { type ActWish, actWish, keepAct } from './changes';
import { readOrigin } from './origin';
import { pictureRow } from './views';

/** Such objects hold no samples: a sound one is far smaller. */
export const mostStateBytes = 4_000_000;
const mostLayers = 200;

export interface ReadOnto {
  /** How many drawings and readings it brought. */
  count: number;
  /** What it says besides that can't be shown, in words. */
  leftOut: string[];
}

const notReadable = () =>
  new Problem(
    'not-readable',
    'This is no DICOM presentation state or report that can be read.',
    'Export it again from where it came: a softcopy presentation state of grey or colour, or a structured report.',
    422
  );

/**
 * Puts what a DICOM presentation state or structured report says onto the picture that it is about, as one act of the person
 * who brings it: it can be taken back like any other.
 */
export async function readOnto(
  caller: Caller,
  pictureId: string,
  key: string,
  bytes: Uint8Array
): Promise<ReadOnto> {
  await demand(caller, 'change pictures', pictureId);
  const row = await inClinic(caller.clinicId, (tx) => pictureRow(tx, pictureId));
  const { about, layers, changes, leftOut } = toldIn(bytes, {
    width: row.width,
    height: row.height,
    pixelAspect: readOrigin(row.facts).pixelAspect
  });
  if (!about.includes(row.instance_uid))
    throw new Problem(
      'other-picture',
      'This is about another picture, by the number that the picture has in it.',
      'Open the picture it belongs to and read it there.',
      409
    );
  if (layers.length === 0)
    throw new Problem(
      'nothing-told',
      'It says nothing of this picture that can be shown here.',
      leftOut.length > 0 ? `Left out: ${leftOut.join('; ')}.` : 'The picture stays as it is.',
      422
    );
  await keepAct(caller, pictureId, key, { changes: changes() });
  const kept = layers.slice(0, mostLayers);
  return {
    count: kept.filter(({ item, kind }) => item !== null && kind !== 'note').length,
    leftOut: layers.length > kept.length ? [...leftOut, `more than ${mostLayers} things`] : leftOut
  };
}

/** What a presentation state or a report says. */
interface Told extends ReturnType<typeof presentationRead> {
  instanceUid: string;
  /** Its layers as changes of a picture. @throws Problem where they are none */
  changes(): ActWish['changes'];
}

/** What such an object says, in a picture of that size. @throws Problem for what is none */
export function toldIn(bytes: Uint8Array, size: Size): Told {
  try {
    const set = readDicom(bytes, () => {
      throw new NotReadable('deflated');
    });
    const sopClass = sopClassOf(set);
    const read = isPresentationState(sopClass)
      ? presentationRead(set, randomUUID, size)
      : isReport(sopClass)
        ? reportRead(set, randomUUID)
        : null;
    if (read) return { ...read, instanceUid: code(set, '00080018') ?? '', changes: () => changesOf(read) };
  } catch (error) {
    if (!(error instanceof NotReadable)) throw error;
  }
  throw notReadable();
}

function changesOf({ layers }: Pick<Told, 'layers'>): ActWish['changes'] {
  const act = actWish.safeParse({ changes: layers.slice(0, mostLayers) });
  if (!act.success) throw notReadable();
  return act.data.changes;
}
