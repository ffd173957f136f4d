import { execFile } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { promisify } from 'node:util';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { freePort } from '../../../../scripts/cluster.mjs';
import { discFile } from '../arrivals/arriving.test-data';
import { bundles } from '../arrivals/bundles';
import { wholeBlob } from '../blobs/keep';
import { newId, newToken, sha256 } from '../ids';
import { openDimseDoor } from './dimseDoor';
import { stored } from './stow';

const clinic = useClinic();
const run = promisify(execFile);
const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-network-'));
const token = newToken();
let port = 0;
let door: { close: () => void };

beforeAll(async () => {
  port = await freePort();
  door = await openDimseDoor(port);
  await clinic.owner.query(
    `insert into known_sender (clinic_id, sender_id, name, ae_title, token_hash, added_by) values ($1, $2, 'Mainland General', 'MAINLAND', $3, $4)`,
    [clinic.clinicId, newId(), sha256(token), clinic.caller().userId]
  );
});
afterAll(() => {
  door.close();
  fs.rmSync(folder, { recursive: true });
});

const fromNetwork = async () => (await bundles(clinic.caller())).filter(({ source }) => source === 'network');
const waitsFor = (name: string) =>
  expect
    .poll(async () => (await fromNetwork()).find(({ inFile }) => inFile?.name === name), { timeout: 15_000 })
    .toBeTruthy();

describe('pictures that are sent by DIMSE', () => {
  const file = path.join(folder, 'a.dcm');
  const send = (title: string, ...more: string[]) =>
    run('storescu', ['-aet', title, '-aec', 'YONDER', ...more, '127.0.0.1', String(port), file]);

  it('come to Arrivals from a system that is known, whole, and once however often they are sent', async () => {
    fs.writeFileSync(file, discFile({ name: 'Sent^Una', description: 'Chest PA' }));
    await send('MAINLAND');
    await waitsFor('Una Sent');
    await send('MAINLAND');
    const all = (await fromNetwork()).filter(({ inFile }) => inFile?.name === 'Una Sent');
    expect(all).toHaveLength(1);
    expect(all[0]).toMatchObject({ from: 'Mainland General', count: 1 });
    const { rows } = await clinic.owner.query<{ original_sha256: Buffer }>(
      'select original_sha256 from arrival where arrival_id = $1',
      [all[0].firstId]
    );
    // The data set is the sender's, read by other people's tools.
    const kept = path.join(folder, 'kept.dcm');
    fs.writeFileSync(kept, await wholeBlob(clinic.clinicId, rows[0].original_sha256));
    const { stdout } = await run('dcmdump', ['+P', 'PatientName', '+P', 'SeriesDescription', kept]);
    expect(stdout).toContain('Sent^Una');
    expect(stdout).toContain('Chest PA');
  });
  it('are echoed to', async () => {
    await run('echoscu', ['-aet', 'MAINLAND', '127.0.0.1', String(port)]);
  });
  it('from anybody else are turned away and written down', async () => {
    fs.writeFileSync(file, discFile({ name: 'Sent^Nemo' }));
    // Whoever calls again within a minute is not written down again: nobody else here calls so.
    await expect(send('UNHEARD-OF')).rejects.toThrow(/Rejected|Calling AE/i);
    expect((await fromNetwork()).some(({ inFile }) => inFile?.name === 'Nemo Sent')).toBe(false);
    const { rows } = await clinic.owner.query(
      `select subject from audit_line where act = 'caller refused' and clinic_id = $1`,
      [clinic.clinicId]
    );
    expect(rows.map(({ subject }) => subject)).toContain('AE UNHEARD-OF');
  });
});

describe('pictures that are stored by DICOMweb', () => {
  const body = (...files: Buffer[]) =>
    Buffer.concat([
      ...files.flatMap((file) => [
        Buffer.from('--b1\r\nContent-Type: application/dicom\r\n\r\n'),
        file,
        Buffer.from('\r\n')
      ]),
      Buffer.from('--b1--\r\n')
    ]);
  const type = 'multipart/related; type="application/dicom"; boundary=b1';
  const store = (bytes: Buffer, shown = `Bearer ${token}`) =>
    stored(
      shown,
      type,
      (async function* () {
        yield bytes;
      })()
    );

  it('come to Arrivals; what is bad is told one by one, the rest goes in', async () => {
    const good = discFile({ name: 'Web^Wanda' });
    const both = await store(body(good, Buffer.from('this is no picture')));
    expect(both.status).toBe(202);
    expect(both.answer).toMatchObject({
      '00081199': { Value: [{ '00081155': { vr: 'UI' } }] },
      '00081198': { Value: [{ '00081197': { Value: [0xc000] } }] }
    });
    await waitsFor('Wanda Web');
    expect((await store(body(good))).status).toBe(200);
    expect((await fromNetwork()).filter(({ inFile }) => inFile?.name === 'Wanda Web')).toHaveLength(1);
    expect((await store(body(Buffer.from('none')))).status).toBe(409);
  });
  it('are refused without a token that is known, and where the message is cut off', async () => {
    await expect(store(body(discFile({})), 'Bearer made-up')).rejects.toMatchObject({ status: 401 });
    const whole = body(discFile({}));
    await expect(store(whole.subarray(0, whole.length - 200))).rejects.toMatchObject({ code: 'cut-off' });
  });
});
