import { type CaseWords, ageBandOn } from '../src/lib/core/shelf/teachingCase';
import { inClinic } from '../src/lib/server/database/connection';
import type { Caller } from '../src/lib/server/people/caller';
import { makeCase } from '../src/lib/server/shelf/cases';

interface DemoCase extends Omit<CaseWords, 'ageBand'> {
  record: string;
  pictures: number;
}

/** What stands on the demo clinic's shelf: of radiographs that no lettering stands in. */
const cases: readonly DemoCase[] = [
  {
    record: 'QS-1011',
    pictures: 4,
    title: 'Metal in four quadrants',
    description: 'A check-up with four bitewings. Nothing hurts. Where would you look twice?',
    keyWords: ['bitewing', 'filling', 'margin'],
    diagnosis: null,
    findings: 'Large metal fillings, right and left. Their margins are level with bone that is level, too.'
  },
  {
    record: 'QS-1040',
    pictures: 3,
    title: 'A wrist after a fall',
    description: 'Fell on an outstretched hand while mooring a boat. Pain on the side of the thumb.',
    keyWords: ['wrist', 'fall', 'radius'],
    diagnosis: { system: 'ICD-10', code: 'S52.5', words: 'Fracture at lower end of radius' },
    findings:
      'A radius that is short and tilts back: its inclination and tilt are read against a normal side.'
  }
];

/** Makes the cases whose pictures are there; each once. They are packed by the worker. */
export async function addCases(caller: Caller, keyOf: (name: string) => string): Promise<void> {
  for (const { record, pictures, ...words } of cases) {
    const rows = await inClinic(caller.clinicId, (tx) =>
      tx.sql<{ picture_id: string; born: string | null; day: string }>(
        `select x.picture_id, p.birth_date::text as born, x.taken_at::date::text as day
         from picture x join patient p on p.clinic_id = x.clinic_id and p.patient_id = x.patient_id
         where x.clinic_id = $1 and p.record_number = $2 and x.kind = 'radiograph' and x.away is null and x.source = 'device'
         order by x.taken_at desc, x.number limit $3`,
        tx.clinicId,
        record,
        pictures
      )
    );
    if (rows.length === 0) continue;
    await makeCase(caller, keyOf(`case ${record}`), {
      pictureIds: rows.map((row) => row.picture_id),
      ruleId: null,
      words: { ...words, ageBand: ageBandOn(rows[0].born, rows[0].day) }
    });
  }
}
