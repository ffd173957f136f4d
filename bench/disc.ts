import fs from 'node:fs';
import path from 'node:path';
import dicomParser from 'dicom-parser';
import { EventSourceParserStream } from 'eventsource-parser/stream';
import { password } from '../demo/clinic';
import { Asking } from '../e2e/harness/asking';
import type { RunningClinic } from '../e2e/harness/running';
import type { IntakeView } from '../src/lib/core/arrivals/intakeView';
import { discFile } from '../src/lib/server/arrivals/arriving.test-data';
import { type Row, median, times } from './report';

const files = 1_000;
const warmUps = 2;
const rounds = 9;
/** Until nothing is done any more for an intake that was stopped. */
const restMs = 3_000;
/** Looking has its cost too. */
const lookSeldomMs = 500;
const pause = (ms: number) => new Promise((done) => setTimeout(done, ms));

/** News of Arrivals as a page hears them: resolves with the next that comes, at once where one came since the last. */
async function heardNews(clinic: RunningClinic, { cookie }: Asking): Promise<{ next: () => Promise<void> }> {
  const answer = await fetch(`${clinic.origin}/api/news`, { headers: { cookie } });
  let missed = false;
  let wake = () => {};
  void (async () => {
    for await (const { data } of answer
      .body!.pipeThrough(new TextDecoderStream())
      .pipeThrough(new EventSourceParserStream())) {
      if (!data.includes('"arrivals"')) continue;
      missed = true;
      wake();
    }
  })().catch(() => {});
  return {
    next: async () => {
      if (!missed) await new Promise<void>((done) => (wake = done));
      missed = false;
    }
  };
}

/** A disc of a thousand slices as discs hold them, read from the server's folder until it lies on the sorting desk. */
export async function benchDisc(clinic: RunningClinic, folder: string): Promise<Row[]> {
  const disc = path.join(folder, 'disc');
  fs.mkdirSync(disc, { recursive: true });
  for (let i = 0; i < files; i++)
    fs.writeFileSync(
      path.join(disc, `IM${String(i).padStart(5, '0')}`),
      discFile({
        name: `Person^No${i % 20}`,
        study: `2.25.${1000 + (i % 20)}`,
        number: i,
        slice: { size: [512, 512], sample: i, alongMm: i }
      })
    );
  const parse = () => {
    for (const name of fs.readdirSync(disc)) {
      const set = dicomParser.parseDicom(fs.readFileSync(path.join(disc, name)));
      if (!set.string('x00100010')) throw new Error(`${name} has no name`);
    }
  };
  const referenceMs = median((await times(rounds, parse)).slice(warmUps));
  const wren = await Asking.as(clinic, 'wren', password);
  await wren.send('POST', '/api/read-folders', { folders: [disc] });
  const mara = await Asking.as(clinic, 'mara', password);
  const news = await heardNews(clinic, mara);
  const listed: number[] = [];
  let begun = 0;
  for (let round = 0; round < rounds; round++) {
    begun = performance.now();
    const { said } = await mara.send('POST', '/api/intakes/folders', { folder: disc });
    for (;;) {
      const { intakes } = (await mara.get('/api/arrivals')).said as { intakes: IntakeView[] };
      const told = intakes[0].coming.reduce((sum, each) => sum + each.files, 0);
      if (told === files) break;
      if (intakes[0].endedAt !== null) throw new Error(`it ended, and ${told} of ${files} were listed`);
      await news.next();
    }
    if (round >= warmUps) listed.push(performance.now() - begun);
    if (round === rounds - 1) break;
    await mara.send('POST', `/api/intakes/${said.intakeId as string}`, { kind: 'cancel' });
    await pause(restMs);
    await clinic.rows('truncate arrival cascade');
  }
  for (;;) {
    const [row] = await clinic.rows<{ over: boolean }>(
      'select ended_at is not null as over from intake order by started_at desc limit 1'
    );
    if (row?.over) break;
    await pause(lookSeldomMs);
  }
  const keptMs = performance.now() - begun;
  const [{ count }] = await clinic.rows<{ count: number }>('select count(*)::int as count from arrival');
  if (count !== files) throw new Error(`${count} of ${files} arrived`);
  const reference = 'reading them and parsing their headers with dicom-parser';
  return [
    {
      name: `${files} files of a disc, until Arrivals lists them all by person and study`,
      oursMs: median(listed),
      reference,
      referenceMs,
      limit: 1.5,
      note: 'begun, surveyed, told by news and fetched as the page does; the bytes follow'
    },
    {
      name: 'The same, until each is decoded, written through to the disk and kept with its audit line',
      oursMs: keptMs,
      reference,
      referenceMs,
      limit: Infinity
    }
  ];
}
