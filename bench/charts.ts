import { password } from '../demo/clinic';
import { Asking } from '../e2e/harness/asking';
import type { Browser } from '../e2e/harness/browser';
import type { RunningClinic } from '../e2e/harness/running';
import sharp from 'sharp';
import { type Row, median, times } from './report';

const few = 50;
const many = 5_000;
const opened = 7;

/** Copies of one picture in its chart, an hour apart, each linked to a tooth. Nothing else of a chart is made up. */
const copies = (patient: string, from: number, until: number) => `
  with one as (select * from picture where patient_id = '${patient}' order by number limit 1),
    made as (insert into picture (picture_id, clinic_id, patient_id, visit_id, original_sha256, media_type, file_name, source, kind,
        width, height, channels, bits_stored, sample_offset, frames, facts, first_look, taken_at, instance_uid, number, placed, told)
      select gen_random_uuid(), clinic_id, patient_id, visit_id, original_sha256, media_type, 'n' || n, source, kind, width, height,
        channels, bits_stored, sample_offset, frames, facts, first_look, now() - n * interval '1 hour', 'n' || n || picture_id, 9000 + n, true
      from one, generate_series(${from}, ${until}) n returning picture_id, clinic_id, taken_at),
    linked as (insert into picture_place (clinic_id, picture_id, place_key, place, linked_by)
      select clinic_id, picture_id, 'tooth:36', '{"kind": "tooth", "tooth": 36}',
        (select user_id from user_account where sign_in_name = 'orsin') from made),
    shown as (insert into picture_preview (clinic_id, picture_id, key, webp)
      select m.clinic_id, m.picture_id, v.key, v.webp from made m, one, picture_preview v where v.picture_id = one.picture_id)
  select 1`;

/** A visit with one picture, of which the others are made. @returns whose it is */
async function onePicture(clinic: RunningClinic, asking: Asking): Promise<string> {
  const [{ patient_id: patientId, room_id: roomId }] = await clinic.rows<{
    patient_id: string;
    room_id: string;
  }>(
    `select p.patient_id, r.room_id from patient p join room r using (clinic_id)
     where p.record_number = 'QS-1060' and r.name = 'Teeth'`
  );
  const { visitId } = (await asking.send('POST', '/api/visits', { patientId, roomId })).said;
  const png = await sharp({ create: { width: 400, height: 300, channels: 3, background: '#445566' } })
    .png()
    .toBuffer();
  await asking.send('POST', `/api/visits/${String(visitId)}/files?name=one.png`, new Uint8Array(png));
  return patientId;
}

/** A chart with many pictures against one with few: until a picture is seen, and what the page holds in memory then. */
export async function benchCharts(clinic: RunningClinic, browser: Browser): Promise<Row[]> {
  const asking = await Asking.as(clinic, 'orsin', password);
  const patient = await onePicture(clinic, asking);
  await clinic.rows(copies(patient, 1, few - 1));
  const measured = async () => {
    const seen: number[] = [];
    const heap: number[] = [];
    for (let i = 0; i < opened; i++) {
      await browser.go('/settings');
      const started = performance.now();
      await browser.go(`/patients/${patient}`);
      await browser.until('a picture is seen', () =>
        browser.run<boolean>(
          `return [...document.querySelectorAll('[data-testid=small] , img[data-testid=small]')].some((image) => image.complete && image.naturalWidth > 0)`
        )
      );
      seen.push(performance.now() - started);
      await browser.untilLive();
      await browser.driver.sendDevToolsCommand('HeapProfiler.collectGarbage', {});
      heap.push(await browser.run<number>('return performance.memory.usedJSHeapSize'));
    }
    return { seenMs: median(seen.slice(1)), heap: median(heap.slice(1)) };
  };
  await clinic.rows('analyze');
  const small = await measured();
  await clinic.rows(copies(patient, few, many - 1));
  await clinic.rows('vacuum analyze');
  const large = await measured();
  return [
    {
      name: `A chart of ${many} pictures, until one is seen`,
      oursMs: large.seenMs,
      reference: `a chart of ${few}`,
      referenceMs: small.seenMs,
      limit: 1.3,
      note: `the page holds ${(large.heap / 1e6).toFixed(1)} MB against ${(small.heap / 1e6).toFixed(1)} MB`
    }
  ];
}

const searchedFew = 1_000;
const searchedMany = 1_000_000;
const teeth = [36, 37, 46, 47, 11, 21, 12, 22, 13, 23, 14, 24, 15, 25, 16, 26];

/** What is known of pictures, without the pictures: spread over ten years, sixteen teeth and three kinds. */
const metadata = (from: number, until: number) => `
  set session_replication_role = replica;
  with one as (select * from picture order by number limit 1),
    made as (insert into picture (picture_id, clinic_id, patient_id, visit_id, original_sha256, media_type, file_name, source, kind,
        width, height, channels, bits_stored, sample_offset, frames, facts, first_look, taken_at, instance_uid, number, placed, told)
      select gen_random_uuid(), clinic_id, patient_id, visit_id, original_sha256, media_type, 'm' || n, source,
        (array['radiograph', 'photograph', 'other'])[1 + n % 3], width, height, channels, bits_stored, sample_offset, frames,
        '{"version": 2, "from": "S"}', first_look, now() - (n * 97 % 3650) * interval '1 day' - n * interval '1 second',
        'm' || n, 100000 + n, true, case when n % 12 = 5 then jsonb '{"grade": "limited"}' else told end
      from one, generate_series(${from}, ${until}) n returning picture_id, clinic_id, patient_id, kind, taken_at, number)
  insert into picture_at (clinic_id, place_key, picture_id, patient_id, kind, taken_at)
    select clinic_id, 'tooth:' || (array[${teeth.join(',')}])[1 + (number / 7) % ${teeth.length}], picture_id, patient_id, kind, taken_at
    from made;
  set session_replication_role = origin`;

const day = (ago: number) => new Date(Date.now() - ago * 86_400_000).toISOString();
const questions = [
  'places=tooth:36&kinds=radiograph',
  `places=tooth:46&places=tooth:47&from=${day(900)}&until=${day(800)}`,
  `kinds=photograph&until=${day(2000)}`,
  `places=tooth:11&kinds=other&until=${day(3000)}`,
  `from=${day(400)}`,
  'grade=limited'
];
const searched = 25;

/** Finding pictures by place, day, kind and grade among all charts. */
export async function benchFinding(clinic: RunningClinic): Promise<Row[]> {
  const orsin = await Asking.as(clinic, 'orsin', password);
  await onePicture(clinic, orsin);
  const measured = async () => {
    const medians = [];
    for (const question of questions) {
      const all = await times(searched, async () => {
        const { status, text } = await orsin.get(`/api/pictures?${question}`);
        if (status !== 200) throw new Error(text);
      });
      medians.push(median(all.slice(3)));
    }
    return medians;
  };
  await clinic.rows(metadata(1, searchedFew));
  await clinic.rows('vacuum analyze');
  const small = await measured();
  await clinic.rows(metadata(searchedFew + 1, searchedMany));
  await clinic.rows('vacuum analyze');
  const large = await measured();
  const worst = large.map((ms, i) => ms / small[i]);
  const at = worst.indexOf(Math.max(...worst));
  return [
    {
      name: `Finding pictures by place, day, kind and grade among ${searchedMany}`,
      oursMs: median(large),
      reference: `among ${searchedFew}`,
      referenceMs: median(small),
      limit: 3,
      note: `the slowest against itself: “${questions[at]}” ${large[at].toFixed(1)} ms, ratio ${worst[at].toFixed(1)}`
    }
  ];
}
