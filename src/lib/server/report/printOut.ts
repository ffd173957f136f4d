import { captionLineMm, perLineOf } from '../../core/print/captions';
import { type SizeMm, sheetOf } from '../../core/print/paper';
import { correctionOf } from '../../core/print/printer';
import { type PrintSheet, gridCell, gridSheets, traySheet, trueSheets } from '../../core/print/printSheets';
import type { PrintWish } from '../../core/print/printWish';
import { mostTiles } from '../../core/print/tiles';
import { trueSize } from '../../core/print/trueSize';
import { claimKinds, proposedClaim } from '../../core/parcel/claim';
import { pictureName, placesOf, type PictureView } from '../../core/picture/pictureView';
import { placesInWords } from '../../core/anatomy/place';
import { dayOf } from '../../core/time/clinicTime';
import { seenSize } from '../../core/picture/seenSize';
import { reportFoot, shownNow } from '../../core/report/visitReport';
import { printerOf } from '../clinics/printers';
import { claimsTold } from '../dispatch/claimsTold';
import { inClinic } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import { Problem } from '../problem';
import { visitView } from '../visits/visits';
import { printOutside } from '../work/processes';
import { jpegOnPaper } from './jpegOnPaper';
import { noneLeft, unscaled } from './printProblems';
import { namesIn } from './namesIn';
import type { PaperMade } from './made';
import { truthWords } from './truthWords';
import { paperClock, visitPaperHead } from './visitPaper';

/** Where a picture fills a sheet, more than a printer shows is of no use. */
const mostMm = 470;

/** Pictures of a visit laid out on sheets: the very bytes that are looked at are those that are printed. */
export async function printOut(caller: Caller, visitId: string, wish: PrintWish): Promise<PaperMade> {
  await demand(caller, 'send', visitId);
  const visit = await visitView(caller, visitId);
  const printer = wish.printerId
    ? await inClinic(caller.clinicId, (tx) => printerOf(tx, wish.printerId!))
    : null;
  const byId = new Map(visit.pictures.map((picture) => [picture.pictureId, picture]));
  const chosen = wish.pictureIds.flatMap((id) => byId.get(id) ?? []);
  if (chosen.length === 0) throw noneLeft();
  const sheet = sheetOf(wish.paper, wish.lying);
  const isClaim = wish.way === 'claim';
  const told = isClaim ? await claimsOn(caller, chosen, wish) : new Map<string, OnClaim>();
  const sheets = laidOut(chosen, sheet, wish, told);
  const clock = paperClock(caller);
  const pictures = await Promise.all(
    chosen.map(async (view) => {
      const shown = shownNow(view, caller, wish.drawn);
      // Grey is turned over; a photograph is no better for it.
      const look =
        wish.inkSaving && view.channels === 1
          ? { steps: [...shown.look.steps.slice(0, shown.look.knot), { kind: 'invert' as const }] }
          : shown.look;
      const jpeg = await jpegOnPaper(
        caller.clinicId,
        { ...shown, look },
        Math.min(mostMm, longestMm(sheets, view.pictureId)),
        300
      );
      const claim = told.get(view.pictureId);
      if (claim) return [view.pictureId, { jpeg, ...claim }] as const;
      const caption = [pictureName(view), clock.moment(view.takenAt)];
      if (wish.way === 'true') caption.push(truthWords(view, caller.language));
      return [view.pictureId, { jpeg, caption }] as const;
    })
  );
  const isTrue = wish.way === 'true';
  const made = await printOutside({
    sheet,
    correction: correctionOf(printer),
    sheets,
    pictures: Object.fromEntries(pictures),
    head: await visitPaperHead(caller, visit, wish.names),
    foot: `${isTrue ? `True to scale where the ruler is right${printer ? `, as measured on ${printer.name}` : ''}: print at 100 %.` : reportFoot} ${caller.name}, ${clock.today()}.`,
    own: wish.head,
    ruler: isTrue,
    what: isClaim ? 'Pictures for a claim' : undefined
  });
  const words = [
    ...pictures.flatMap(([, { caption }]) => caption),
    ...(wish.head?.fields ?? []).map((each) => each.words)
  ].join('\n');
  return {
    ...made,
    names: wish.names,
    named: wish.names === 'initials' ? namesIn(visit.patient, words) : []
  };
}

interface OnClaim {
  caption: string[];
  sides: readonly [left: string, right: string];
}

/** What a claim wants to know of each picture: its kind, its day, whose left is where, and the number that it is followed by. */
async function claimsOn(
  caller: Caller,
  chosen: readonly PictureView[],
  { claims }: PrintWish
): Promise<ReadonlyMap<string, OnClaim>> {
  const numbers = await inClinic(caller.clinicId, (tx) =>
    claimsTold(
      tx,
      chosen.map(({ pictureId }) => pictureId)
    )
  );
  const clock = paperClock(caller);
  return new Map(
    chosen.map((view, i) => {
      const { pictureId, takenAt } = view;
      const known = numbers.get(pictureId);
      const claim =
        claims?.[pictureId] ?? known?.claim ?? proposedClaim(view, dayOf(new Date(takenAt), caller.timeZone));
      const place = placesInWords(placesOf(view), caller.notation);
      const sides = ['patient’s left', 'patient’s right'] as const;
      return [
        pictureId,
        {
          caption: [
            `${i + 1}. ${[pictureName(view), place].filter(Boolean).join(', ')}`,
            `${claimKinds[claim.kind]}, taken ${clock.day(`${claim.taken}T12:00:00Z`)}`,
            ...(claim.remark ? [claim.remark] : []),
            ...(known ? [`Tracking number ${known.tracking} (${known.office})`] : [])
          ],
          sides: claim.leftIsAt === 'left' ? sides : [sides[1], sides[0]]
        }
      ];
    })
  );
}

/** Rows with all that is told under each picture. @throws Problem where so many on a sheet leave no room for it */
function claimSheets(
  chosen: readonly PictureView[],
  sheet: SizeMm,
  { across, down }: PrintWish,
  told: ReadonlyMap<string, OnClaim>
): PrintSheet[] {
  const cell = gridCell(sheet, { across, down });
  const perLine = perLineOf(cell.width);
  const lines = Math.max(
    ...[...told.values()].map(({ caption }) =>
      // Words at the end of a line leave room.
      caption.reduce((sum, words) => sum + Math.ceil((words.length * 1.15) / perLine), 0)
    )
  );
  const captionHighMm = (lines + 2) * captionLineMm;
  if (captionHighMm > 0.6 * cell.height)
    throw new Problem(
      'no-room-for-claim',
      'What is told of each picture has no room beside so many on a sheet.',
      'Choose fewer side by side, or fewer rows.',
      409
    );
  return gridSheets(
    chosen.map((view) => ({ key: view.pictureId, size: seenSize(view) })),
    sheet,
    { across, down, captions: true, captionHighMm }
  );
}

function laidOut(
  chosen: readonly PictureView[],
  sheet: SizeMm,
  wish: PrintWish,
  told: ReadonlyMap<string, OnClaim>
): PrintSheet[] {
  const { captions, across, down } = wish;
  const sized = chosen.map((view) => ({ key: view.pictureId, size: seenSize(view), view }));
  switch (wish.way) {
    case 'true': {
      const without = chosen.filter((view) => !trueSize(view));
      if (without.length > 0) throw unscaled(without);
      try {
        return trueSheets(
          chosen.map((view) => ({ key: view.pictureId, size: trueSize(view)! })),
          sheet,
          captions
        );
      } catch (error) {
        if (!(error instanceof RangeError)) throw error;
        throw new Problem(
          'too-many-sheets',
          `At its true size a picture would take more than ${mostTiles} sheets.`,
          'Take a larger paper, crop the picture, or print it in rows.',
          409
        );
      }
    }
    case 'claim':
      return claimSheets(chosen, sheet, wish, told);
    case 'grid':
      return gridSheets(sized, sheet, { across, down, captions });
    case 'tray': {
      // Of several takes of one slot the first has its place.
      const held = new Map<string, string>();
      for (const { key, view } of sized) {
        const place = view.slot && `${view.trayId} ${view.slot.id}`;
        if (place && !held.has(place)) held.set(place, key);
      }
      const inPlace = new Set(held.values());
      const slotted = sized.flatMap(({ view, ...each }) =>
        view.slot && inPlace.has(each.key) ? [{ ...each, tray: view.trayId, slot: view.slot }] : []
      );
      if (slotted.length === 0)
        throw new Problem(
          'no-tray',
          'None of these pictures lies in a slot of a tray.',
          'Print them in rows.',
          409
        );
      const rest = sized.filter(({ key }) => !inPlace.has(key));
      const trays = [...new Set(slotted.map(({ tray }) => tray))];
      return [
        ...trays.map((of) =>
          traySheet(
            slotted.filter(({ tray }) => tray === of),
            sheet,
            captions
          )
        ),
        ...(rest.length > 0 ? gridSheets(rest, sheet, { across, down, captions }) : [])
      ];
    }
  }
}

/** How long the longer side of a picture is on paper, all of its tiles together. */
function longestMm(sheets: readonly PrintSheet[], key: string): number {
  const placed = sheets.flatMap((sheet) => sheet.placed).filter((each) => each.key === key);
  return Math.max(
    1,
    ...placed.map(({ at, part }) => Math.max(at.width / part.width, at.height / part.height))
  );
}
