import { mapSvg } from '../../core/body/mapSvg';
import { fullest, sheetsOf } from '../../core/body/drawings';
import { mapsInUse, mapsOfTrade } from '../../core/anatomy/maps';
import { partsOf, placesOfLetter, wordsOfLetter } from '../../core/letter/letterBody';
import type { LetterField } from '../../core/letter/letterFields';
import { reportFoot } from '../../core/report/visitReport';
import type { VisitView } from '../../core/visit/visitView';
import { inClinic } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import { roleWords } from '../people/roles';
import { placeCounts } from '../pictures/queries';
import { jpegOnPaper } from '../report/jpegOnPaper';
import type { PaperMade } from '../report/made';
import { namesIn } from '../report/namesIn';
import { paperClock, visitPaperHead } from '../report/visitPaper';
import { letterOutside } from '../work/processes';
import { type Taken, filled } from './filling';
import type { PlacePrinted } from './letterPdf';
import { letter } from './letters';

/** Makes a letter as it stands: the very bytes that are looked at are those that are shared. */
export async function letterOut(caller: Caller, visitId: string, letterId: string): Promise<PaperMade> {
  await demand(caller, 'send', visitId);
  const kept = await letter(caller, visitId, letterId);
  const { visit, filling, taken } = await filled(caller, visitId, kept);
  const captions: Record<string, string> = {};
  const places = await Promise.all(
    placesOfLetter(kept.body).map(async ({ id, widthMm, heightMm, caption }) => {
      const picture = taken[id];
      if (!picture) return [];
      captions[id] = caption || filling.places[id]!.caption;
      return [
        [id, await printed(caller.clinicId, picture, Math.max(widthMm, heightMm), captions[id])] as const
      ];
    })
  );
  const hasMap = [...partsOf(kept.body)].some(({ type }) => type === 'bodyMap');
  const made = await letterOutside({
    body: kept.body,
    head: { ...(await visitPaperHead(caller, visit, kept.names)), when: '' },
    foot: `${places.flat().length > 0 ? `${reportFoot} ` : ''}${caller.clinicName}, ${paperClock(caller).today()}.`,
    fields: filling.fields,
    places: Object.fromEntries(places.flat()),
    readings: filling.readings,
    bodyMap: hasMap ? await bodyMap(caller, visit) : '',
    signature: { name: caller.name, role: roleWords[caller.role] }
  });
  const words = [
    wordsOfLetter(kept.body),
    ...written.map((name) => filling.fields[name]),
    ...Object.values(captions)
  ];
  return {
    ...made,
    names: kept.names,
    named: kept.names === 'initials' ? namesIn(visit.patient, words.join('\n')) : []
  };
}

/** What people wrote, in which a name may stand. */
const written: readonly LetterField[] = [
  'reasons',
  'procedures',
  'question',
  'history',
  'plan',
  'colleague',
  'findings'
];

async function printed(
  clinicId: string,
  { shown }: Taken,
  mm: number,
  caption: string
): Promise<PlacePrinted> {
  return { jpeg: await jpegOnPaper(clinicId, shown, mm), caption };
}

/** The drawing on which most of the patient's pictures are; where there is none, the trade's own. */
async function bodyMap(caller: Caller, { patient, trade }: VisitView): Promise<string> {
  const counts = await inClinic(caller.clinicId, (tx) => placeCounts(tx, patient.patientId));
  const sheets = sheetsOf(mapsInUse(counts, mapsOfTrade(trade, patient).slice(0, 1)));
  return mapSvg(fullest(sheets, counts).drawing, counts, caller.notation);
}
