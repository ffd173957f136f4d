import { z } from 'zod';
import { orientationOf } from '../../core/picture/pictureView';
import { paperHead, paperNames } from '../../core/report/paperHead';
import { resultsFoot, resultsPaper } from '../../core/report/resultsPaper';
import { visitResults } from '../../core/report/visitResults';
import { dayInWords, dayOf } from '../../core/time/clinicTime';
import { writeAudit } from '../audit/write';
import { inClinic } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import { earlierWithGuides } from '../pictures/earlierGuides';
import { previewAt } from '../pictures/previews';
import { picturesOfVisit } from '../pictures/queries';
import { viewsOf } from '../pictures/views';
import type { OutFile } from '../takenOut/takenOut';
import { bandOf, visitHead } from '../visits/visitHead';
import { pdfOutside } from '../work/processes';

export const resultsWish = z.object({ names: z.enum(paperNames).default('initials') });

/** The results of a visit as a PDF; the patient's initials stand on it unless the full name is asked for. */
export async function resultsOut(
  caller: Caller,
  visitId: string,
  { names }: z.infer<typeof resultsWish>
): Promise<OutFile> {
  await demand(caller, 'send', visitId);
  const earlier = await earlierWithGuides(caller, visitId);
  const day = (at: string | Date) => dayInWords(new Date(at), caller.timeZone);
  const { views, head } = await inClinic(caller.clinicId, async (tx) => {
    const { visit, patient, room } = await visitHead(tx, visitId);
    await writeAudit(tx, caller, 'taken out', visitId, { patientId: visit.patientId, as: 'results', names });
    return {
      views: await viewsOf(tx, await picturesOfVisit(tx, visitId), caller.userId),
      head: {
        ...paperHead(bandOf(patient), names, dayOf(new Date(), caller.timeZone)),
        clinic: caller.clinicName,
        when: `${room.name} room, ${day(visit.openedAt)}`
      }
    };
  });
  const paper = resultsPaper(visitResults(views, earlier), day);
  const wanted = new Set(paper.guides.flatMap(({ pictures }) => pictures.map(({ pictureId }) => pictureId)));
  const small = await Promise.all(
    views
      .filter(({ pictureId }) => wanted.has(pictureId))
      .map(async (view) => {
        const webp = await previewAt(caller.clinicId, view.pictureId, view.seq, orientationOf(view));
        return [view.pictureId, webp] as const;
      })
  );
  return {
    bytes: await pdfOutside({
      paper,
      head,
      foot: `${resultsFoot} ${caller.name}, ${day(new Date())}.`,
      small: Object.fromEntries(small)
    }),
    mediaType: 'application/pdf',
    fileName: 'results.pdf'
  };
}
