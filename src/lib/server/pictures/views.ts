import { z } from 'zod';
import { type FileSpacing, scaleFromFile } from '../../core/calibration/scale';
import { type LayerStep, toBringBack, toTakeBack } from '../../core/picture/layerLog';
import { readableLayers } from '../../core/picture/pictureLayers';
import type { PictureView } from '../../core/picture/pictureView';
import { type Look, windowLook } from '../../core/raster/look/look';
import { lookSchema } from '../../core/raster/look/lookSchema';
import { upright } from '../../core/raster/orientation';
import type { PatternBook, Ref } from '../../core/tray/pattern';
import { type Slot, slotSchema } from '../../core/tray/slot';
import { withOwnLook } from '../../core/raster/look/ownLook';
import { adviceOf } from '../advice/queries';
import type { Tx } from '../database/connection';
import { Problem, notFound } from '../problem';
import { bookFor } from '../trays/patterns';
import { readOrigin } from './origin';
import { type PictureRow, linksOf, pictureById, shapeOf, stepsOf } from './queries';

/** A picture of a chart; one that is in the bin or on the sorting desk again only for those who ask for it too. */
export async function pictureRow(tx: Tx, pictureId: string, also: 'away' | null = null): Promise<PictureRow> {
  const row = z.uuid().safeParse(pictureId).success ? await pictureById(tx, pictureId) : undefined;
  if (!row) throw notFound('This picture');
  if (row.away && also === null) throw awayProblem(row.away);
  return row;
}

const awayProblem = (away: 'bin' | 'arrivals') =>
  away === 'bin'
    ? new Problem(
        'in-the-bin',
        'This picture was deleted from its chart.',
        'Bring it back from the chart’s bin first.',
        410
      )
    : new Problem(
        'in-arrivals',
        'This picture was taken out of its chart and waits in Arrivals.',
        'Give it to a visit there first.',
        410
      );

const patternRef = (row: PictureRow): Ref | null =>
  row.pattern_id === null ? null : { id: row.pattern_id, version: row.pattern_version! };

function slotOf(row: PictureRow, book: PatternBook): Slot | null {
  if (row.own_slot) return slotSchema.safeParse(row.own_slot).data ?? null;
  const ref = patternRef(row);
  if (!ref || row.slot_id === null) return null;
  return book.pattern(ref).slots.find((slot) => slot.id === row.slot_id) ?? null;
}

const unreadRemark =
  'Something on this picture can’t be read by this program and is not shown; it is kept as it is.';
const lostLookRemark =
  'The look this picture opens with can’t be read; it is shown over the whole range of its samples.';

/** The look a picture opens with; over all its samples where what is stored is none. */
export function firstLookOf(row: PictureRow): { look: Look; lost: boolean } {
  const read = lookSchema.safeParse(row.first_look);
  if (read.success) return { look: read.data, lost: false };
  const width = 2 ** row.bits_stored;
  return { look: windowLook({ center: width / 2 + row.sample_offset, width }), lost: true };
}

/** The look a picture opens with: its device's own where that has one. */
export function openingLookOf(row: PictureRow): Look {
  const { opensWith } = readOrigin(row.facts);
  const { look } = firstLookOf(row);
  return opensWith ? withOwnLook(opensWith, look) : look;
}

/** The names of those who made steps, by user. */
async function namesOf(tx: Tx, steps: readonly LayerStep[]): Promise<Map<string, string>> {
  const ids = [...new Set(steps.map(({ by }) => by))];
  if (ids.length === 0) return new Map();
  const rows = await tx.sql<{ user_id: string; name: string }>(
    'select user_id, display_name as name from user_account where user_id = any($1::uuid[])',
    ids
  );
  return new Map(rows.map(({ user_id, name }) => [user_id, name]));
}

/** How pages see pictures: in five questions however many they are. `viewer` is whose acts could be taken back. */
export async function viewsOf(tx: Tx, rows: readonly PictureRow[], viewer: string): Promise<PictureView[]> {
  const ids = rows.map((row) => row.picture_id);
  const [steps, links, advice] = [await stepsOf(tx, ids), await linksOf(tx, ids), await adviceOf(tx, ids)];
  const refs = new Map(
    rows.flatMap((row) =>
      patternRef(row) ? [[row.pattern_id! + row.pattern_version, patternRef(row)!]] : []
    )
  );
  const people = await namesOf(tx, [...steps.values()].flat());
  const book = await bookFor(tx, { patterns: [...refs.values()], routes: [] });
  return rows.map((row) => {
    const origin = readOrigin(row.facts);
    const log = steps.get(row.picture_id) ?? [];
    const slot = slotOf(row, book);
    const { scale: fileScale, doubt } = scaleFromFile(origin as FileSpacing);
    const { layers, unread } = readableLayers(log);
    const look = firstLookOf(row);
    return {
      pictureId: row.picture_id,
      visitId: row.visit_id,
      patientId: row.patient_id,
      kind: row.kind,
      fileName: row.file_name,
      source: row.source,
      ...shapeOf(row),
      pixelAspect: origin.pixelAspect,
      frames: row.frames,
      frameMs: row.frame_ms,
      takenAt: row.taken_at.toISOString(),
      firstTakenAt: row.first_taken_at?.toISOString() ?? null,
      number: row.number,
      from: origin.from,
      remarks: [
        ...origin.remarks,
        ...(unread.length > 0 ? [unreadRemark] : []),
        ...(look.lost ? [lostLookRemark] : [])
      ],
      trayId: row.tray_id,
      slot,
      links: links.get(row.picture_id) ?? [],
      placed: row.placed,
      firstLook: look.look,
      openLook: origin.opensWith && withOwnLook(origin.opensWith, look.look),
      firstOrientation: row.source === 'device' && slot ? slot.orientation : upright,
      fileScale,
      scaleDoubt: doubt,
      sourceToDetectorMm: origin.sourceToDetectorMm,
      layers,
      people: Object.fromEntries(layers.items.map(({ by }) => [by, people.get(by) ?? ''])),
      advice: advice.get(row.picture_id) ?? null,
      seq: log.at(-1)?.seq ?? 0,
      canTakeBack: toTakeBack(log, viewer).length > 0,
      canBringBack: toBringBack(log, viewer).length > 0
    };
  });
}

export async function viewOf(
  tx: Tx,
  pictureId: string,
  viewer: string,
  also: 'away' | null = null
): Promise<PictureView> {
  const [view] = await viewsOf(tx, [await pictureRow(tx, pictureId, also)], viewer);
  return view;
}
