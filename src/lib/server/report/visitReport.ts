import { orientationOf } from '../../core/picture/pictureView';
import { type PaperNames, paperHead } from '../../core/report/paperHead';
import { resultsFoot, resultsPaper } from '../../core/report/resultsPaper';
import {
  type ReportChoice,
  type ReportFacts,
  type ReportSection,
  freeWords,
  plainChoice,
  reportChoice,
  reportFoot,
  reportPaper
} from '../../core/report/visitReport';
import { visitResults } from '../../core/report/visitResults';
import { clockOf, dayInWords, dayOf } from '../../core/time/clinicTime';
import { readVersioned } from '../../core/versioned';
import type { VisitView } from '../../core/visit/visitView';
import { standingPictures } from '../../core/visit/standing';
import { type Tx, inClinic } from '../database/connection';
import { log } from '../log';
import { type Caller, demand } from '../people/caller';
import { earlierWithGuides } from '../pictures/earlierGuides';
import { previewAt } from '../pictures/previews';
import { visitHead } from '../visits/visitHead';
import { visitView } from '../visits/visits';
import { reportOutside } from '../work/processes';
import { jpegOnPaper } from './jpegOnPaper';
import { namesIn } from './namesIn';

const insideMm = 174;

async function choiceOf(tx: Tx, visitId: string): Promise<ReportChoice> {
  const row = await tx.one<{ version: number; body: unknown }>(
    'select version, body from visit_report where visit_id = $1',
    visitId
  );
  return row
    ? readVersioned('How this report is put together', reportChoice, row.version, row.body)
    : plainChoice;
}

/** How a visit's report is put together. */
export async function reportChosen(caller: Caller, visitId: string): Promise<ReportChoice> {
  await demand(caller, 'view charts', visitId);
  return inClinic(caller.clinicId, async (tx) => {
    await visitHead(tx, visitId);
    return choiceOf(tx, visitId);
  });
}

/** Whoever changed it last has it as they see it. */
export async function chooseReport(caller: Caller, visitId: string, choice: ReportChoice): Promise<object> {
  await demand(caller, 'send', visitId);
  return inClinic(caller.clinicId, async (tx) => {
    await visitHead(tx, visitId);
    await tx.sql(
      `insert into visit_report (clinic_id, visit_id, version, body, changed_by) values ($1, $2, $3, $4::jsonb, $5)
       on conflict (clinic_id, visit_id) do update
         set version = excluded.version, body = excluded.body, changed_by = excluded.changed_by, changed_at = now()`,
      tx.clinicId,
      visitId,
      reportChoice.version,
      JSON.stringify(choice),
      caller.userId
    );
    return {};
  });
}

/** The report as it stands now, and what somebody has to hear before it is shared. */
export interface MadeReport {
  bytes: Uint8Array;
  names: PaperNames;
  /** Parts of the patient's or owner's names that stand in the words of a report by initials. */
  named: string[];
  /** Letters that no font has. */
  unwritable: string[];
}

/** Makes the report of a visit: the very bytes that are looked at are those that are shared. */
export async function visitReport(caller: Caller, visitId: string): Promise<MadeReport> {
  await demand(caller, 'send', visitId);
  const [visit, earlier] = await Promise.all([
    visitView(caller, visitId),
    earlierWithGuides(caller, visitId)
  ]);
  const choice = await inClinic(caller.clinicId, (tx) => choiceOf(tx, visitId));
  const day = (at: string | Date) => dayInWords(new Date(at), caller.timeZone);
  const facts: ReportFacts = {
    visit,
    results: resultsPaper(visitResults(standingPictures(visit.trays, visit.pictures), earlier), day),
    notation: caller.notation,
    dateWords: (date) => dayInWords(new Date(`${date}T00:00:00Z`), 'UTC'),
    momentWords: (at) => `${day(at)}, ${clockOf(new Date(at), caller.timeZone).slice(0, 5)}`
  };
  const sections = reportPaper(facts, choice);
  const head = {
    ...paperHead(visit.patient, choice.names, dayOf(new Date(), caller.timeZone)),
    clinic: caller.clinicName,
    when: `${visit.room} room, ${day(visit.openedAt)}`
  };
  const measured = sections.some(({ kind }) => kind === 'guide' || kind === 'readings');
  const foot = `${measured ? resultsFoot : reportFoot} ${caller.name}, ${day(new Date())}.`;
  const [jpegs, small] = await Promise.all([
    picturesOf(caller.clinicId, sections, choice.across),
    smallOf(caller.clinicId, sections, visit)
  ]);
  const alert = visit.patient.alert ?? '';
  const made = await reportOutside({
    sections: withoutLooks(sections),
    across: choice.across,
    head,
    alert,
    foot,
    jpegs,
    small
  });
  return {
    ...made,
    names: choice.names,
    named:
      choice.names === 'initials' ? namesIn(visit.patient, [alert, ...freeWords(sections)].join('\n')) : []
  };
}

/** What is put on paper needs the pictures made, and not how. */
const withoutLooks = (sections: readonly ReportSection[]): ReportSection[] =>
  sections.map((section) =>
    section.kind === 'pictures'
      ? {
          ...section,
          entries: section.entries.map((entry) => ({
            ...entry,
            shown: { ...entry.shown, drawings: [], look: { steps: [] } }
          }))
        }
      : section
  );

async function picturesOf(
  clinicId: string,
  sections: readonly ReportSection[],
  across: number
): Promise<Record<string, Uint8Array>> {
  const mm = insideMm / across;
  const wanted = sections.flatMap((section) => (section.kind === 'pictures' ? section.entries : []));
  const made = await Promise.all(
    wanted.map(async ({ key, shown, name }) => {
      try {
        return [[key, await jpegOnPaper(clinicId, shown, mm)] as const];
      } catch (error) {
        // One picture that can't be read is no reason to have no report: its place says so.
        log.warn({ err: error, picture: shown.pictureId }, `${name} is missing in a report`);
        return [];
      }
    })
  );
  return Object.fromEntries(made.flat());
}

async function smallOf(
  clinicId: string,
  sections: readonly ReportSection[],
  { pictures }: Pick<VisitView, 'pictures'>
): Promise<Record<string, Uint8Array>> {
  const wanted = new Set(
    sections.flatMap((section) =>
      section.kind === 'guide' ? section.guide.pictures.map(({ pictureId }) => pictureId) : []
    )
  );
  const made = await Promise.all(
    pictures
      .filter(({ pictureId }) => wanted.has(pictureId))
      .map(async (view) => {
        const webp = await previewAt(clinicId, view.pictureId, view.seq, orientationOf(view));
        return [view.pictureId, webp] as const;
      })
  );
  return Object.fromEntries(made);
}
