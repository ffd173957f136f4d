import { pictureName } from '../../core/picture/pictureView';
import type { About } from '../arrivals/about';
import { insertArrival } from '../arrivals/queries';
import type { Tx } from '../database/connection';
import { newId } from '../ids';
import type { Caller } from '../people/caller';
import { type PictureRow, shapeOf } from './queries';
import { readOrigin } from './origin';
import { firstLookOf, viewsOf } from './views';

/** Lays a picture that is taken out of its chart on the sorting desk, beside those that are taken out with it. */
export async function backToDesk(
  tx: Tx,
  caller: Caller,
  awayId: string,
  bundleId: string,
  row: PictureRow,
  reason: string
): Promise<void> {
  const from = await tx.one<{ name: string }>(
    `select trim(given_name || ' ' || family_name) || ' (' || record_number || ')' as name from patient where patient_id = $1`,
    row.patient_id
  );
  // The row still says where it lay, and so what it is called.
  const [view] = await viewsOf(tx, [row], caller.userId);
  const about: About = {
    version: 2,
    mediaType: row.media_type,
    kind: row.kind,
    ...shapeOf(row),
    frames: row.frames,
    pixelAspect: readOrigin(row.facts).pixelAspect,
    frameMs: row.frame_ms,
    firstLook: firstLookOf(row).look,
    origin: row.facts as Record<string, unknown>,
    inFile: null,
    says: null,
    dated: true
  };
  await insertArrival(tx, {
    key: `chart ${awayId}`,
    arrival_id: newId(),
    source: 'chart',
    from_name: from!.name,
    room_id: null,
    user_id: caller.userId,
    original_sha256: row.original_sha256,
    file_name: row.file_name,
    title: view.slot || view.layers.about?.name ? pictureName(view) : '',
    remark: view.layers.about?.remark ?? '',
    about,
    reason: `Taken out of the chart of ${from!.name} by ${caller.name}: ${reason}`,
    taken_at: row.taken_at,
    bundle_id: bundleId,
    bundle_key: '',
    intake_id: null,
    picture_id: row.picture_id
  });
}
