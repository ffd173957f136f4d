import type { Veils } from '../../core/picture/layers/veils/veils';
import { readableLayers } from '../../core/picture/pictureLayers';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic } from '../database/connection';
import { burnedInOf } from '../objects/pictureObject';
import { type Caller, demand } from '../people/caller';
import { type Origin, fileText, readOrigin } from '../pictures/origin';
import { type PictureRow, stepsOf } from '../pictures/queries';
import { pictureRow } from '../pictures/views';
import { Problem } from '../problem';

const secondaryCapture = '1.2.840.10008.5.1.4.1.1.7';

/**
 * Whether names may stand in the picture itself, so that somebody has to look before it leaves without its identity:
 * all but a detector's own radiographs and files of them that say there is nothing burned in.
 */
export function mayHoldLettering(row: PictureRow, origin: Origin): boolean {
  if (row.kind !== 'radiograph' || burnedInOf(row, origin) !== false) return true;
  return (fileText(origin, '00080016') ?? '').startsWith(secondaryCapture);
}

/** What is masked of pictures when they leave; nothing for those that nobody laid veils on. */
export async function veilsOf(tx: Tx, pictureIds: readonly string[]): Promise<Map<string, Veils>> {
  const steps = await stepsOf(tx, pictureIds);
  return new Map(
    [...steps].flatMap(([pictureId, log]): [string, Veils][] => {
      const { veils } = readableLayers(log).layers;
      return veils ? [[pictureId, veils]] : [];
    })
  );
}

/**
 * Which of these pictures somebody has looked at, and says that with the veils on them nothing stands in them that must
 * not leave. Who changes the veils has to say so anew.
 */
export async function lookedAt(tx: Tx, pictureIds: readonly string[]): Promise<Set<string>> {
  if (pictureIds.length === 0) return new Set();
  const veils = await veilsOf(tx, pictureIds);
  const done = await tx.sql<{ picture_id: string }>(
    'select picture_id from lettering_checked where picture_id = any($1::uuid[])',
    pictureIds
  );
  const said = new Set(done.map((row) => row.picture_id));
  return new Set(pictureIds.filter((id) => veils.get(id)?.looked ?? said.has(id)));
}

/** Which of these pictures somebody has to look at first, and nobody has said of yet that no name stands in them. */
export async function unlooked(tx: Tx, rows: readonly PictureRow[]): Promise<string[]> {
  const asked = rows
    .filter((row) => mayHoldLettering(row, readOrigin(row.facts)))
    .map((row) => row.picture_id);
  const looked = await lookedAt(tx, asked);
  return asked.filter((pictureId) => !looked.has(pictureId));
}

export const lookFirst = (count: number): Problem =>
  new Problem(
    'look-first',
    count === 1
      ? 'Names may stand in the picture itself, and nobody has said that none do. It was not sent.'
      : `Names may stand in ${count} of these pictures, and nobody has said that none do. Nothing was sent.`,
    'Look at each in De-identify and say so there.',
    409
  );

/** Somebody has looked at the picture and says that no name, number or face stands in it. */
export async function sayNoLettering(caller: Caller, pictureId: string, key: string): Promise<object> {
  await demand(caller, 'send', pictureId);
  return inClinic(caller.clinicId, async (tx) => {
    const row = await pictureRow(tx, pictureId);
    return once(tx, caller.userId, key, async () => {
      await tx.sql(
        `insert into lettering_checked (clinic_id, picture_id, looked_by) values ($1, $2, $3)
         on conflict (clinic_id, picture_id) do nothing`,
        tx.clinicId,
        pictureId,
        caller.userId
      );
      await writeAudit(tx, caller, 'looked for names', pictureId, { patientId: row.patient_id });
      return {};
    });
  });
}
