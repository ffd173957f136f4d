import { randomBytes } from 'node:crypto';
import fs from 'node:fs';
import path from 'node:path';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { windowOf } from '../../core/raster/look/look';
import { sha256 } from '../ids';
import { digestInThread } from '../work/threads';
import { blobParts, keepBytes, moveIn, moveStragglers, partBytes, wholeBlob } from './keep';
import { Landing, comingFolder, landedFile } from './landing';
import { progressAt } from './progress';
import { insertBlob } from './queries';
import { sweepComing, sweepLanding } from './sweep';

const clinic = useClinic();
const folder = () => path.join(clinic.landing, clinic.clinicId);
const files = () => fs.readdirSync(folder());
beforeEach(() => fs.rmSync(folder(), { recursive: true, force: true }));

async function* inPieces(bytes: Uint8Array, size: number): AsyncGenerator<Uint8Array> {
  for (let at = 0; at < bytes.length; at += size) {
    yield bytes.subarray(at, at + size);
    if (at % (7 * size) === 0) await new Promise((done) => setTimeout(done, 1));
  }
}

/** Lands bytes as a sender's: written, digested and settled, but in no record yet. */
async function land(bytes: Uint8Array, samples: { count: number; bitsStored: number } | null = null) {
  const landing = await Landing.open();
  const digest = digestInThread({ file: landing.part, progress: landing.progress, samples });
  await landing.receive(inPieces(bytes, 1013), bytes.length);
  const found = await digest;
  const sha = Buffer.from(found.sha256, 'hex');
  await landing.settle(Promise.resolve(sha), clinic.clinicId);
  return { sha, ...found };
}
const record = (sha: Buffer, size: number) => clinic.inside((tx) => insertBlob(tx, sha, size, 'landed'));

const coming = () => fs.readdirSync(comingFolder()!);

describe('the landing', () => {
  it('keeps what comes in pieces of any size, under its digest, found while it comes', async () => {
    for (const size of [1, 2, 1012, 1013, 5_000, 700_001]) {
      const bytes = randomBytes(size);
      const { sha, firstLook } = await land(bytes);
      expect(sha.equals(sha256(bytes)), String(size)).toBe(true);
      expect(firstLook).toBeNull();
      expect(fs.readFileSync(landedFile(clinic.clinicId, sha)!).equals(bytes)).toBe(true);
    }
    expect(coming()).toEqual([]);
  });

  it('finds the look that samples open with, though pieces cut them in two', async () => {
    const samples = Uint16Array.from({ length: 60_000 }, (_, i) => 1000 + (i % 3000));
    const { firstLook } = await land(new Uint8Array(samples.buffer), {
      count: samples.length,
      bitsStored: 12
    });
    const { center, width } = windowOf(firstLook!)!;
    expect(center).toBeCloseTo(2500, -1);
    expect(width).toBeGreaterThan(2980);
    expect(width).toBeLessThanOrEqual(3000);
  });

  it('sees the most bits of any sample, the last of an odd number among them, however they come', async () => {
    for (const count of [1, 2, 3, 131_073, 131_074]) {
      for (const at of [0, Math.floor(count / 2), count - 1]) {
        const samples = new Uint16Array(count).fill(0x0abc);
        samples[at] = 0x2000;
        const { bitsUsed } = await land(new Uint8Array(samples.buffer), { count, bitsStored: 12 });
        expect(bitsUsed, `${at} of ${count}`).toBe(14);
      }
    }
  });

  it('is followed from its first bytes on, while the others are still to come', async () => {
    const landing = await Landing.open();
    const first = randomBytes(64 * 1024);
    async function* slowly() {
      yield first;
      await vi.waitFor(() => expect(landing.progress[progressAt.bytes]).toBe(first.length));
      yield randomBytes(10);
    }
    await landing.receive(slowly(), 1_000_000);
    expect(landing.progress[progressAt.bytes]).toBe(first.length + 10);
    await landing.discard();
  });

  it('that is settled stays where it is when it is tidied away', async () => {
    const bytes = randomBytes(3000);
    const landing = await Landing.open();
    await landing.receive(inPieces(bytes, 1000), 3000);
    const reading = await landing.reading();
    await landing.settle(Promise.resolve(sha256(bytes)), clinic.clinicId);
    await landing.discard();
    expect(fs.readFileSync(landedFile(clinic.clinicId, sha256(bytes))!).equals(bytes)).toBe(true);
    expect((await reading.readFile()).equals(bytes), 'who read it before goes on').toBe(true);
    await reading.close();
  });

  it('refuses more than was allowed and leaves nothing behind', async () => {
    const landing = await Landing.open();
    await expect(landing.receive(inPieces(randomBytes(5000), 1000), 4000)).rejects.toMatchObject({
      code: 'too-large'
    });
    await landing.discard();
    await landing.discard();
    expect(coming()).toEqual([]);
  });
});

describe('an original', () => {
  it('is read the same from the landing, from the records, and while it is moved', async () => {
    const bytes = randomBytes(2 * partBytes + 777);
    const { sha } = await land(bytes);
    await record(sha, bytes.length);
    const slow = blobParts(clinic.clinicId, sha);
    const first = (await slow.next()).value as Buffer;
    const [moved, read] = await Promise.all([moveIn(clinic.clinicId, sha), wholeBlob(clinic.clinicId, sha)]);
    expect([moved, read.equals(bytes)]).toEqual([true, true]);
    const rest = [first];
    for await (const part of slow) rest.push(part);
    expect(Buffer.concat(rest).equals(bytes)).toBe(true);
    expect((await wholeBlob(clinic.clinicId, sha)).equals(bytes)).toBe(true);
    expect(files()).toEqual([]);
    const { rows } = await clinic.owner.query(
      'select count(*)::int as parts from blob_part where sha256 = $1',
      [sha]
    );
    expect(rows[0].parts).toBe(3);
  });

  it('moved by two at once is moved by one', async () => {
    const bytes = randomBytes(partBytes);
    const { sha } = await land(bytes);
    await record(sha, bytes.length);
    const moved = await Promise.all([1, 2, 3].map(() => moveIn(clinic.clinicId, sha)));
    expect(moved.filter(Boolean)).toHaveLength(1);
    expect((await wholeBlob(clinic.clinicId, sha)).equals(bytes)).toBe(true);
  });

  it('whose move broke off before it was committed still lies in the landing, and is moved later', async () => {
    const bytes = randomBytes(3000);
    const { sha } = await land(bytes);
    await record(sha, bytes.length);
    await clinic.owner.query(
      `create function no_part() returns trigger language plpgsql as 'begin raise exception ''broken''; end'`
    );
    await clinic.owner.query(
      'create trigger no_part before insert on blob_part for each row execute function no_part()'
    );
    await expect(moveIn(clinic.clinicId, sha)).rejects.toThrow(/broken/);
    await clinic.owner.query('drop trigger no_part on blob_part');
    expect((await wholeBlob(clinic.clinicId, sha)).equals(bytes)).toBe(true);
    await clinic.owner.query(`update blob set stored_at = now() - interval '1 hour' where sha256 = $1`, [
      sha
    ]);
    expect(await moveStragglers(clinic.clinicId, 600)).toBe(1);
    expect(files()).toEqual([]);
  });

  it('made here is kept in parts, and twice the same is once', async () => {
    const bytes = randomBytes(partBytes + 1);
    const [one, two] = [
      await clinic.inside((tx) => keepBytes(tx, bytes)),
      await clinic.inside((tx) => keepBytes(tx, bytes))
    ];
    expect(one.equals(two)).toBe(true);
    expect((await wholeBlob(clinic.clinicId, one)).equals(bytes)).toBe(true);
    for (const [from, to] of [
      [0, 1],
      [partBytes - 1, partBytes + 1],
      [partBytes, 2 * partBytes],
      [5, bytes.length]
    ])
      expect((await wholeBlob(clinic.clinicId, one, { from, to })).equals(bytes.subarray(from, to))).toBe(
        true
      );
  });
});

describe('sweeping', () => {
  it('removes what nobody refers to, once it is old enough, and nothing else', async () => {
    const [needed, kept, orphan, young] = [1, 2, 3, 4].map((n) => randomBytes(100 * n));
    const shas = [];
    for (const bytes of [needed, kept, orphan, young]) shas.push((await land(bytes)).sha);
    await record(shas[0], needed.length);
    await record(shas[1], kept.length);
    await clinic.owner.query(`update blob set place = 'kept' where sha256 = $1`, [shas[1]]);
    fs.writeFileSync(path.join(folder(), 'a note of the keeper'), 'mine');
    const hour = 3_600_000;
    const old = new Date(Date.now() - hour);
    for (const name of files())
      if (name !== shas[3].toString('hex')) fs.utimesSync(path.join(folder(), name), old, old);
    expect(await sweepLanding(clinic.clinicId)).toBe(2);
    expect(files().sort()).toEqual(
      ['a note of the keeper', shas[0].toString('hex'), shas[3].toString('hex')].sort()
    );
    expect((await wholeBlob(clinic.clinicId, shas[0])).equals(needed)).toBe(true);
  });
  it('removes what broke off while it came, but not what may still be coming', async () => {
    const { part } = await Landing.open();
    const young = await Landing.open();
    const old = new Date(Date.now() - 3_600_000);
    fs.utimesSync(part, old, old);
    expect(await sweepComing()).toBe(1);
    expect(coming()).toEqual([path.basename(young.part)]);
    await young.discard();
  });
});
