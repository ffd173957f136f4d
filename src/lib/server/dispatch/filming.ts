import { inClinic } from '../database/connection';
import { byColour } from '../report/filmBox';
import { filmsLaidOut } from '../report/filmOut';
import { filmOutside } from '../work/processes';
import { NotDelivered, type Wire } from './carriers/carrier';
import { type FilmImage, askPrinter, printFilm } from './carriers/film';
import { handOver } from './carrying';
import type { Arrived, Claimed } from './claimed';
import { filmPrinter } from './filmParcels';

/** One film of a parcel to its printer. */
export async function toFilmPrinter(
  clinicId: string,
  { parcel, settings, film: number, deliveryId }: Claimed,
  wire: Wire,
  alive: () => Promise<void>
): Promise<Arrived> {
  const wish = parcel.film!;
  const { address } = settings;
  if (address.kind !== 'film') throw new Error(`no film printer: ${address.kind}`);
  const films = await inClinic(clinicId, async (tx) => {
    await filmPrinter(tx, wish);
    return filmsLaidOut(tx, parcel.visitId!, wish, { colour: address.colour, by: parcel.madeBy });
  });
  const boxes = films.films[number! - 1];
  const chosen = films.films.flat().length;
  if (!boxes || chosen < wish.pictureIds.length)
    throw new NotDelivered(
      'Pictures of these films were deleted since.',
      true,
      'Withdraw it, and print the films anew from the visit.'
    );
  const printer = { ...address, wire };
  // Asked before the pictures are made: a printer without film is told of at once.
  await askPrinter(printer, address.colour);
  const images: FilmImage[] = [];
  for (const box of boxes) {
    const made = await filmOutside(box.wish);
    const { width, height } = made;
    images.push({
      width,
      height,
      samples: byColour(made),
      widthMm: wish.way === 'true' ? box.wish.at.box.width : null
    });
    await alive();
  }
  await handOver(clinicId, deliveryId, {
    reason: 'The printer was being told to print when the work broke off: nobody knows whether it did.',
    next: 'Look whether the film came out before you try again.'
  });
  const remark = await printFilm(printer, {
    size: wish.size,
    lying: wish.lying,
    medium: address.medium,
    copies: wish.copies,
    colour: address.colour,
    across: films.across,
    down: films.down,
    images
  });
  return { sent: null, readBack: false, remark };
}
