import { z } from 'zod';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import { viewsOf, type PictureRow } from '../pictures/pictures';
import type { PictureView } from '../../core/picture/pictureView';
import type { PatientBand } from '../../core/visit/visitView';
import { notFound } from '../problem';
import { trayOfVisit } from '../trays/trays';
import type { Tray } from '../../core/tray/tray';

export interface PatientRow {
  patient_id: string;
  kind: 'person' | 'animal';
  family_name: string;
  given_name: string;
  birth_date: string | null;
  sex: '' | 'F' | 'M' | 'O';
  record_number: string;
  species: string | null;
  owner: string | null;
  alert: string | null;
}

export const patientColumns = `p.patient_id, p.kind, p.family_name, p.given_name, p.birth_date::text as birth_date,
  p.sex, p.record_number, p.species, p.owner, p.alert`;

export function bandOf(row: PatientRow): PatientBand {
  return {
    patientId: row.patient_id,
    kind: row.kind,
    name: row.kind === 'animal' ? row.given_name : `${row.given_name} ${row.family_name}`.trim(),
    familyName: row.family_name,
    birthDate: row.birth_date,
    sex: { F: 'female', M: 'male', O: 'other', '': '' }[row.sex],
    recordNumber: row.record_number,
    species: row.species,
    owner: row.owner,
    alert: row.alert
  };
}

export interface ChartVisit {
  visitId: string;
  openedAt: string;
  room: string;
  pictureCount: number;
}

export interface Chart {
  patient: PatientBand;
  visits: ChartVisit[];
  pictures: PictureView[];
  /** How many pictures each tooth has: linked ones, and keepers whose slot shows it. */
  teeth: Record<number, number>;
  rooms: { roomId: string; name: string; trade: string }[];
  more: boolean;
}

const picturesOnPage = 60;

export async function chart(caller: Caller, patientId: string): Promise<Chart> {
  await demand(caller, 'view charts', patientId);
  if (!z.uuid().safeParse(patientId).success) throw notFound('This patient');
  return inClinic(caller.clinicId, async (tx) => {
    const row = await tx.one<PatientRow>(
      `select ${patientColumns} from patient p where patient_id = $1`,
      patientId
    );
    if (!row) throw notFound('This patient');
    const visits = await tx.sql<{ visit_id: string; opened_at: Date; name: string; count: string }>(
      `select v.visit_id, v.opened_at, r.name, (select count(*) from picture where visit_id = v.visit_id) as count
       from visit v join room r using (room_id) where v.patient_id = $1 order by v.opened_at desc`,
      patientId
    );
    const rows = await tx.sql<PictureRow>(
      'select * from picture where patient_id = $1 order by taken_at desc, number desc limit $2',
      patientId,
      picturesOnPage + 1
    );
    const pictures = await viewsByVisit(tx, rows.slice(0, picturesOnPage));
    const rooms = await tx.sql<{ room_id: string; name: string; trade: string }>(
      'select room_id, name, trade from room order by place'
    );
    await tx.sql(
      `insert into recent (user_id, patient_id, clinic_id, opened_at) values ($1, $2, $3, now())
       on conflict (user_id, patient_id) do update set opened_at = now()`,
      caller.userId,
      patientId,
      tx.clinicId
    );
    await writeAudit(tx, caller.name, 'chart viewed', patientId);
    return {
      patient: bandOf(row),
      visits: visits.map((visit) => ({
        visitId: visit.visit_id,
        openedAt: visit.opened_at.toISOString(),
        room: visit.name,
        pictureCount: Number(visit.count)
      })),
      pictures,
      teeth: toothCounts(pictures),
      rooms: rooms.map((room) => ({ roomId: room.room_id, name: room.name, trade: room.trade })),
      more: rows.length > picturesOnPage
    };
  });
}

async function viewsByVisit(tx: Tx, rows: PictureRow[]): Promise<PictureView[]> {
  const trays = new Map<string, Tray>();
  for (const { visit_id } of rows) {
    if (!trays.has(visit_id)) trays.set(visit_id, (await trayOfVisit(tx, visit_id)).tray);
  }
  const views = new Map<string, PictureView>();
  for (const [visitId, tray] of trays) {
    const ofVisit = rows.filter((row) => row.visit_id === visitId);
    for (const view of await viewsOf(tx, ofVisit, tray)) views.set(view.pictureId, view);
  }
  return rows.map((row) => views.get(row.picture_id)!);
}

function toothCounts(pictures: PictureView[]): Record<number, number> {
  const counts: Record<number, number> = {};
  for (const picture of pictures) {
    const teeth = picture.teeth.length > 0 ? picture.teeth : (picture.slot?.teeth ?? []);
    for (const tooth of teeth) counts[tooth] = (counts[tooth] ?? 0) + 1;
  }
  return counts;
}

/** Patients whose own name or number holds every word that was typed, then those whose owner's does; accents and case aside. */
export async function findPatients(caller: Caller, words: string): Promise<PatientBand[]> {
  await demand(caller, 'view charts', 'search');
  const wanted = words.trim().split(/\s+/).filter(Boolean).slice(0, 6);
  if (wanted.length === 0) return [];
  return inClinic(caller.clinicId, async (tx) => {
    const rows = await tx.sql<PatientRow>(
      `select ${patientColumns} from patient p order by family_name, given_name`
    );
    const fold = (text: string) => text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase();
    const holds = (text: string) => wanted.every((word) => fold(text).includes(fold(word)));
    const own = (row: PatientRow) =>
      `${row.given_name} ${row.family_name} ${row.record_number} ${row.birth_date ?? ''}`;
    const named = rows.filter((row) => holds(own(row)));
    const owned = rows.filter((row) => !holds(own(row)) && holds(`${own(row)} ${row.owner ?? ''}`));
    const matches = [...named, ...owned];
    return matches.slice(0, 12).map(bandOf);
  });
}
