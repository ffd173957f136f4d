import { z } from 'zod';
import type { Tx } from '../database/connection';
import { notFound } from '../problem';
import { type FileSpacing, scaleFromFile } from '../../core/calibration/scale';
import { type Layers, type Step, layersOf } from '../../core/picture/steps';
import type { PictureView } from '../../core/picture/pictureView';
import type { Tray } from '../../core/tray/tray';
import { wellOf } from '../../core/tray/tray';
import { upright } from '../../core/raster/orientation';
import { type PictureFactsStored, pictureFacts } from './facts';
import { layerSchemas } from './layers';

export interface PictureRow {
  picture_id: string;
  patient_id: string;
  visit_id: string;
  original_sha256: Buffer;
  media_type: string;
  file_name: string;
  source: 'device' | 'file';
  width: number;
  height: number;
  channels: 1 | 3;
  bits_stored: number;
  sample_offset: number;
  /** Bytes of the original. */
  original_size: number;
  facts: unknown;
  taken_at: Date;
  instance_uid: string;
  number: number;
}

const columns = `picture_id, patient_id, visit_id, original_sha256, media_type, file_name, source, width, height,
  channels, bits_stored, sample_offset,
  (select length(bytes) from blob where sha256 = original_sha256) as original_size, facts, taken_at, instance_uid, number`;

export async function pictureRow(tx: Tx, pictureId: string): Promise<PictureRow> {
  if (!z.uuid().safeParse(pictureId).success) throw notFound('This picture');
  const row = await tx.one<PictureRow>(`select ${columns} from picture where picture_id = $1`, pictureId);
  if (!row) throw notFound('This picture');
  return row;
}

export async function picturesOfVisit(tx: Tx, visitId: string): Promise<PictureRow[]> {
  return tx.sql<PictureRow>(`select ${columns} from picture where visit_id = $1 order by number`, visitId);
}

export async function stepsOf(tx: Tx, pictureIds: string[]): Promise<Map<string, Step[]>> {
  const rows = await tx.sql<Step & { picture_id: string }>(
    `select picture_id, seq, layer, body, undoes from picture_step where picture_id = any($1::uuid[]) order by picture_id, seq`,
    pictureIds
  );
  const byPicture = new Map<string, Step[]>();
  for (const { picture_id, ...step } of rows) {
    byPicture.set(picture_id, [...(byPicture.get(picture_id) ?? []), step]);
  }
  return byPicture;
}

async function linksOf(tx: Tx, pictureIds: string[]): Promise<Map<string, number[]>> {
  const rows = await tx.sql<{ picture_id: string; tooth: number }>(
    'select picture_id, tooth from picture_link where picture_id = any($1::uuid[]) order by tooth',
    pictureIds
  );
  const byPicture = new Map<string, number[]>();
  for (const row of rows)
    byPicture.set(row.picture_id, [...(byPicture.get(row.picture_id) ?? []), row.tooth]);
  return byPicture;
}

export function factsOf(row: PictureRow): PictureFactsStored {
  return pictureFacts.parse(row.facts);
}

/** The layers of a picture, each checked against its schema. */
export function readLayers(layers: Layers) {
  const readings = Object.entries(layers)
    .filter(([name]) => name.startsWith('reading:'))
    .map(([name, body]) => ({
      id: name.slice('reading:'.length),
      reading: layerSchemas.reading.parse(body)
    }));
  return {
    look: layers.look === undefined ? null : layerSchemas.look.parse(layers.look),
    orientation: layers.orientation === undefined ? null : layerSchemas.orientation.parse(layers.orientation),
    scale: layers.scale === undefined ? null : layerSchemas.scale.parse(layers.scale),
    readings
  };
}

export async function viewsOf(tx: Tx, rows: PictureRow[], tray: Tray): Promise<PictureView[]> {
  const ids = rows.map((row) => row.picture_id);
  const [steps, links] = [await stepsOf(tx, ids), await linksOf(tx, ids)];
  return rows.map((row) => {
    const facts = factsOf(row);
    const log = steps.get(row.picture_id) ?? [];
    const layers = layersOf(log);
    const made = readLayers(layers);
    const slot = wellOf(tray, row.picture_id)?.slot ?? null;
    const { scale: fileScale, doubt } = scaleFromFile(facts as FileSpacing);
    return {
      pictureId: row.picture_id,
      visitId: row.visit_id,
      patientId: row.patient_id,
      fileName: row.file_name,
      source: row.source,
      width: row.width,
      height: row.height,
      channels: row.channels,
      bitsStored: row.bits_stored,
      offset: row.sample_offset,
      takenAt: row.taken_at.toISOString(),
      number: row.number,
      from: facts.from,
      remarks: facts.remarks,
      slot,
      teeth: links.get(row.picture_id) ?? [],
      orientation: made.orientation ?? (row.source === 'device' && slot ? slot.orientation : upright),
      firstLook: facts.firstLook,
      look: made.look ?? facts.firstLook,
      scale: made.scale ? { ...made.scale } : fileScale,
      scaleIsOwn: made.scale !== null,
      fileScale,
      scaleDoubt: doubt,
      readings: made.readings,
      canTakeBack: Object.keys(layers).length > 0
    };
  });
}
