import { z } from 'zod';
import { notations } from '../../core/anatomy/teeth';
import { isTimeZone } from '../../core/time/clinicTime';
import { languages } from '../../core/time/language';
import { once } from '../acts/once';
import { writeAudit } from '../audit/write';
import { type Tx, inClinic, within } from '../database/connection';
import { newId } from '../ids';
import { type Caller, demand } from '../people/caller';
import { Problem, notFound } from '../problem';
import { Clinic } from './clinicModel';
import { type ClinicMarker, markerShapes } from '../../core/calibration/markerShape';
import { Marker } from './markerModel';

const days = z.coerce.number().int().min(7, 'At least 7 days.').max(3650, 'At most 3650 days.');

export const settingsForm = z.object({
  notation: z.enum(notations),
  timeZone: z.string().refine(isTimeZone, 'No time zone has this name.'),
  /** What dates and numbers are written in. */
  language: z.enum(languages).optional(),
  /** For how many days a deleted picture lies in its chart's bin. */
  binDays: days.optional(),
  /** And what was put away on the sorting desk. */
  putAwayDays: days.optional()
});

/** For how long a clinic can bring back what it threw away. */
export const keptDays = (caller: Caller): Promise<{ binDays: number; putAwayDays: number }> =>
  inClinic(caller.clinicId, async (tx) => {
    const { binDays, putAwayDays } = (await Clinic.findByPk(tx.clinicId, within(tx)))!;
    return { binDays, putAwayDays };
  });

export async function changeSettings(caller: Caller, wish: z.infer<typeof settingsForm>): Promise<void> {
  await demand(caller, 'change settings', 'settings');
  await inClinic(caller.clinicId, async (tx) => {
    await Clinic.update(wish, { where: { clinicId: tx.clinicId }, ...within(tx) });
    await writeAudit(tx, caller, 'setting changed', 'clinic', wish);
  });
}

export async function markersOf(tx: Tx): Promise<ClinicMarker[]> {
  const rows = await Marker.findAll({ order: [['sizeMm', 'asc']], ...within(tx) });
  return rows.map(({ markerId, name, shape, sizeMm, toleranceMm }) => ({
    markerId,
    name,
    shape,
    sizeMm,
    toleranceMm
  }));
}

export const markers = (caller: Caller): Promise<ClinicMarker[]> => inClinic(caller.clinicId, markersOf);

export const markerWish = z.object({
  name: z.string().trim().min(1, 'Give it a name.').max(60),
  shape: z.enum(markerShapes).default('length'),
  sizeMm: z.number().positive('The size is above 0 mm.').max(2000),
  toleranceMm: z.number().min(0, 'The tolerance is 0 mm or more.').max(100)
});

/** Adds something of known size; one of the same name gets the new size. */
export async function keepMarker(
  caller: Caller,
  key: string,
  wish: z.infer<typeof markerWish>
): Promise<{ markerId: string }> {
  await demand(caller, 'change settings', 'markers');
  if (wish.toleranceMm >= wish.sizeMm) {
    throw new Problem(
      'tolerance-too-large',
      'The tolerance is as large as the size.',
      'Enter the tolerance from the maker’s sheet, for example 0.02 mm.',
      422
    );
  }
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const known = await Marker.findOne({ where: { name: wish.name }, ...within(tx) });
      const markerId = known?.markerId ?? newId();
      if (known) await known.update(wish, within(tx));
      else await Marker.create({ clinicId: tx.clinicId, markerId, ...wish }, within(tx));
      await writeAudit(tx, caller, 'setting changed', markerId, { marker: wish.name });
      return { markerId };
    })
  );
}

export async function dropMarker(caller: Caller, key: string, markerId: string): Promise<object> {
  await demand(caller, 'change settings', 'markers');
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const dropped = await Marker.destroy({ where: { markerId }, ...within(tx) });
      if (dropped === 0) throw notFound('This marker');
      await writeAudit(tx, caller, 'setting changed', markerId, { marker: 'dropped' });
      return {};
    })
  );
}
