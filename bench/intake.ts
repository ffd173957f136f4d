import { password } from '../demo/clinic';
import { Asking } from '../e2e/harness/asking';
import type { RunningClinic } from '../e2e/harness/running';
import { seededRandom } from '../src/lib/core/random';
import { damaged, damageSources } from '../src/lib/server/pictures/decode/damage.test-data';
import { memoryOf } from './memory';
import { type Row, median } from './report';

const files = 2_000;
const goodEvery = 100;
const atOnce = 2;
const mostWaitMs = 5_000;
const mostBytes = 1e9;
const askEveryMs = 200;

async function openVisits(clinic: RunningClinic, asking: Asking): Promise<string[]> {
  const wishes = await clinic.rows<{ patientId: string; roomId: string }>(
    `select p.patient_id as "patientId", r.room_id as "roomId" from patient p join room r using (clinic_id)
     where clinic_id = (select clinic_id from user_account where sign_in_name = 'orsin') limit 20`
  );
  const visits = await Promise.all(wishes.map((wish) => asking.send('POST', '/api/visits', wish)));
  return visits.map(({ said }) => String(said.visitId));
}

/** Two thousand damaged files, and what they do to everybody else: how long a day takes to open, and how much memory. */
export async function benchIntake(clinic: RunningClinic, folder: string): Promise<Row[]> {
  const asking = await Asking.as(clinic, 'orsin', password);
  const visitIds = await openVisits(clinic, asking);
  const sources = await damageSources(folder);
  const random = seededRandom(2_000);
  const outcomes: Record<string, number> = {};
  const bring = async (number: number, bytes: Buffer) => {
    const { status } = await asking.send(
      'POST',
      `/api/visits/${visitIds[number % visitIds.length]}/files?name=f`,
      bytes
    );
    outcomes[status] = (outcomes[status] ?? 0) + 1;
    return status;
  };
  for (const source of sources)
    if ((await bring(0, source.bytes)) !== 200) throw new Error(`the sound ${source.name} file was refused`);
  const waits: number[] = [];
  let [most, over] = [0, false];
  const watching = (async () => {
    while (!over) {
      const start = performance.now();
      const { status } = await asking.get('/api/day?day=2026-01-05');
      if (status !== 200) throw new Error(`a day could not be opened: ${status}`);
      waits.push(performance.now() - start);
      most = Math.max(most, memoryOf(clinic.pids()));
      await new Promise((done) => setTimeout(done, askEveryMs));
    }
  })();
  let next = 0;
  const goodWaits: number[] = [];
  const line = async () => {
    while (next < files) {
      const number = ++next;
      const source = sources[number % sources.length];
      await bring(number, damaged(source.bytes, random));
      if (number % goodEvery !== 0) continue;
      const start = performance.now();
      if ((await bring(number, source.bytes)) !== 200) throw new Error(`a sound ${source.name} was refused`);
      goodWaits.push(performance.now() - start);
    }
  };
  await Promise.all(Array.from({ length: atOnce }, line));
  over = true;
  await watching;
  const faults = Object.entries(outcomes).filter(([status]) => Number(status) >= 500);
  const told = Object.entries(outcomes).map(([status, count]) => `${count} of ${status}`);
  return [
    {
      name: `Longest wait for a day while ${files} damaged files come in`,
      oursMs: Math.max(...waits),
      reference: 'five seconds',
      referenceMs: mostWaitMs,
      limit: 1,
      note: `median ${median(waits).toFixed(0)} ms; answers: ${told.join(', ')}; faults: ${faults.length === 0 ? 'none' : faults.join()}`
    },
    {
      name: 'Longest a sound file took between damaged ones',
      oursMs: Math.max(...goodWaits),
      reference: 'five seconds',
      referenceMs: mostWaitMs,
      limit: 1
    },
    {
      name: 'Memory of all processes together, at most (MB written as ms)',
      oursMs: most / 1e6,
      reference: 'one gigabyte',
      referenceMs: mostBytes / 1e6,
      limit: 1
    }
  ];
}
