import { z } from 'zod';
import { initialsOf } from '../../core/people/names';
import { orientationOf } from '../../core/picture/pictureView';
import { resultsPaper } from '../../core/report/resultsPaper';
import { visitResults } from '../../core/report/visitResults';
import { dayInWords } from '../../core/time/clinicTime';
import { writeAudit } from '../audit/write';
import { inClinic } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import { earlierWithGuides } from '../pictures/earlierGuides';
import { previewAt } from '../pictures/previews';
import { picturesOfVisit } from '../pictures/queries';
import { viewsOf } from '../pictures/views';
import type { OutFile } from '../takenOut/takenOut';
import { fullName, visitHead } from '../visits/visitHead';
import { pdfOutside } from '../work/processes';

export const resultsWish = z.object({ names: z.enum(['initials', 'full']).default('initials') });

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
    const isFull = names === 'full';
    const name = fullName(patient);
    return {
      views: await viewsOf(tx, await picturesOfVisit(tx, visitId), caller.userId),
      head: {
        title: isFull ? name : initialsOf({ kind: patient.kind, name }),
        about: [
          isFull ? patient.recordNumber : '',
          isFull && patient.birthDate
            ? `born ${dayInWords(new Date(`${patient.birthDate}T12:00:00Z`), 'UTC')}`
            : '',
          patient.species ?? '',
          isFull ? (patient.owner ?? '') : ''
        ]
          .filter(Boolean)
          .join(' · '),
        clinic: caller.clinicName,
        when: `${room.name} room, ${day(visit.openedAt)}`
      }
    };
  });
  const paper = resultsPaper(visitResults(views, earlier), head, `${caller.name}, ${day(new Date())}.`, day);
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
    bytes: await pdfOutside({ paper, small: Object.fromEntries(small) }),
    mediaType: 'application/pdf',
    fileName: 'results.pdf'
  };
}
