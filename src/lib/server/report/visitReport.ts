import { resultsFoot, resultsPaper } from '../../core/report/resultsPaper';
import { insideMm } from '../../core/print/paper';
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
import { dateInWords } from '../../core/time/clinicTime';
import { readVersioned } from '../../core/versioned';
import { standingPictures } from '../../core/visit/standing';
import { type Tx, inClinic } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import { earlierWithGuides } from '../pictures/earlierGuides';
import { visitHead } from '../visits/visitHead';
import { visitView } from '../visits/visits';
import { reportOutside } from '../work/processes';
import { jpegOnPaper } from './jpegOnPaper';
import type { PaperMade } from './made';
import { namesIn } from './namesIn';
import { paperClock, smallOfGuides, visitPaperHead } from './visitPaper';

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

/** Makes the report of a visit: the very bytes that are looked at are those that are shared. */
export async function visitReport(caller: Caller, visitId: string): Promise<PaperMade> {
  await demand(caller, 'send', visitId);
  const [visit, earlier] = await Promise.all([
    visitView(caller, visitId),
    earlierWithGuides(caller, visitId)
  ]);
  const choice = await inClinic(caller.clinicId, (tx) => choiceOf(tx, visitId));
  const clock = paperClock(caller);
  const facts: ReportFacts = {
    visit,
    results: resultsPaper(
      visitResults(standingPictures(visit.trays, visit.pictures), earlier, caller.language),
      clock.day
    ),
    notation: caller.notation,
    language: caller.language,
    dateWords: (date) => dateInWords(date, caller.language),
    momentWords: clock.moment
  };
  const sections = reportPaper(facts, choice);
  const head = await visitPaperHead(caller, visit, choice.names);
  const measured = sections.some(({ kind }) => kind === 'guide' || kind === 'readings');
  const foot = `${measured ? resultsFoot : reportFoot} ${caller.name}, ${clock.today()}.`;
  const [jpegs, small] = await Promise.all([
    picturesOf(caller.clinicId, sections, choice.across),
    smallOfGuides(
      caller.clinicId,
      sections.flatMap((section) => (section.kind === 'guide' ? [section.guide] : [])),
      visit.pictures
    )
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
    wanted.map(async ({ key, shown }) => {
      const jpeg = await jpegOnPaper(clinicId, shown, mm);
      return jpeg ? [[key, jpeg] as const] : [];
    })
  );
  return Object.fromEntries(made.flat());
}
