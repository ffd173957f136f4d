import { z } from 'zod';
import { paperNames } from '../../core/report/paperHead';
import { resultsFoot, resultsPaper } from '../../core/report/resultsPaper';
import { visitResults } from '../../core/report/visitResults';
import { writeAudit } from '../audit/write';
import { inClinic } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import { earlierWithGuides } from '../pictures/earlierGuides';
import { picturesOfVisit } from '../pictures/queries';
import { viewsOf } from '../pictures/views';
import type { OutFile } from '../takenOut/takenOut';
import { bandOf, visitHead } from '../visits/visitHead';
import { pdfOutside } from '../work/processes';
import { paperClock, smallOfGuides, visitPaperHead } from './visitPaper';

export const resultsWish = z.object({ names: z.enum(paperNames).default('initials') });

/** The results of a visit as a PDF; the patient's initials stand on it unless the full name is asked for. */
export async function resultsOut(
  caller: Caller,
  visitId: string,
  { names }: z.infer<typeof resultsWish>
): Promise<OutFile> {
  await demand(caller, 'send', visitId);
  const earlier = await earlierWithGuides(caller, visitId);
  const clock = paperClock(caller);
  const { views, of } = await inClinic(caller.clinicId, async (tx) => {
    const { visit, patient, room } = await visitHead(tx, visitId);
    await writeAudit(tx, caller, 'taken out', visitId, { patientId: visit.patientId, as: 'results', names });
    return {
      views: await viewsOf(tx, await picturesOfVisit(tx, visitId), caller.userId),
      of: { patient: bandOf(patient), room: room.name, openedAt: visit.openedAt }
    };
  });
  const paper = resultsPaper(visitResults(views, earlier, caller.language), clock.day);
  return {
    bytes: await pdfOutside({
      paper,
      head: await visitPaperHead(caller, of, names),
      foot: `${resultsFoot} ${caller.name}, ${clock.today()}.`,
      small: await smallOfGuides(caller.clinicId, paper.guides, views)
    }),
    mediaType: 'application/pdf',
    fileName: 'results.pdf'
  };
}
