import fs from 'node:fs';
import path from 'node:path';
import dicomParser from 'dicom-parser';
import { password } from '../demo/clinic';
import { Asking } from '../e2e/harness/asking';
import type { RunningClinic } from '../e2e/harness/running';
import { discFile } from '../src/lib/server/arrivals/arriving.test-data';
import type { Row } from './report';

const files = 1_000;

/** A disc of a thousand small files, read from the server's folder until it lies on the sorting desk. */
export async function benchDisc(clinic: RunningClinic, folder: string): Promise<Row[]> {
  const disc = path.join(folder, 'disc');
  fs.mkdirSync(disc, { recursive: true });
  for (let i = 0; i < files; i++)
    fs.writeFileSync(
      path.join(disc, `IM${String(i).padStart(5, '0')}`),
      discFile({ name: `Person^No${i % 20}`, study: `2.25.${1000 + (i % 20)}`, number: i })
    );
  const started = performance.now();
  for (const name of fs.readdirSync(disc)) {
    const set = dicomParser.parseDicom(fs.readFileSync(path.join(disc, name)));
    if (!set.string('x00100010')) throw new Error(`${name} has no name`);
  }
  const parsedMs = performance.now() - started;
  const wren = await Asking.as(clinic, 'wren', password);
  await wren.send('POST', '/api/read-folders', { folders: [disc] });
  const mara = await Asking.as(clinic, 'mara', password);
  const begun = performance.now();
  await mara.send('POST', '/api/intakes/folders', { folder: disc });
  for (;;) {
    const [row] = await clinic.rows<{ over: boolean }>(
      'select ended_at is not null as over from intake order by started_at desc limit 1'
    );
    if (row?.over) break;
    await new Promise((done) => setTimeout(done, 50));
  }
  const [{ count }] = await clinic.rows<{ count: number }>('select count(*)::int as count from arrival');
  if (count !== files) throw new Error(`${count} of ${files} arrived`);
  return [
    {
      name: `${files} files of a disc, until they lie on the sorting desk`,
      oursMs: performance.now() - begun,
      reference: 'reading them and parsing their headers with dicom-parser',
      referenceMs: parsedMs,
      limit: 1.5,
      note: 'ours also decodes each, writes it through to the disk and keeps it with its audit line before it is counted'
    }
  ];
}
