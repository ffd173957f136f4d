import { orientationOf, type PictureView } from '../../core/picture/pictureView';
import { type PaperNames, paperHead } from '../../core/report/paperHead';
import { clockOf, dayInWords, dayOf } from '../../core/time/clinicTime';
import type { Writing } from '../../core/time/language';
import type { PatientBand } from '../../core/visit/visitView';
import { letterheadOf } from '../clinics/letterhead';
import type { Caller } from '../people/caller';
import { previewAt } from '../pictures/previews';
import type { SheetHead } from './paperSheet';

/** A moment by a clock, as papers say it. */
export const momentOf = (at: string | Date, by: Writing): string =>
  `${dayInWords(new Date(at), by)}, ${clockOf(new Date(at), by.timeZone).slice(0, 5)}`;

/** Days and moments by the clinic's clock, as its papers say them. */
export function paperClock(by: Writing) {
  const day = (at: string | Date) => dayInWords(new Date(at), by);
  return { day, moment: (at: string) => momentOf(at, by), today: () => day(new Date()) };
}

/** What stands at the head of a paper of a visit. */
export const visitPaperHead = async (
  caller: Caller,
  { patient, room, openedAt }: { patient: PatientBand; room: string; openedAt: string | Date },
  names: PaperNames
): Promise<SheetHead> => ({
  ...paperHead(patient, names, dayOf(new Date(), caller.timeZone), caller.language),
  ...(await letterheadOf(caller)),
  clinic: caller.clinicName,
  when: `${room} room, ${paperClock(caller).day(openedAt)}`
});

/** Small pictures of those that guides lie on, as WebP, by their pictures. */
export async function smallOfGuides(
  clinicId: string,
  guides: readonly { pictures: readonly { pictureId: string }[] }[],
  views: readonly PictureView[]
): Promise<Record<string, Uint8Array>> {
  const wanted = new Set(guides.flatMap(({ pictures }) => pictures.map(({ pictureId }) => pictureId)));
  const made = await Promise.all(
    views
      .filter(({ pictureId }) => wanted.has(pictureId))
      .map(async (view) => {
        const webp = await previewAt(clinicId, view.pictureId, view.seq, orientationOf(view));
        return [view.pictureId, webp] as const;
      })
  );
  return Object.fromEntries(made);
}
