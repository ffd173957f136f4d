import { randomUUID } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { drawLength } from '../../../../e2e/harness/drawing';
import { letteredPng, letteredSize } from '../../../../e2e/harness/lettered';
import { utf8 } from '../../core/dicom/readValues';
import { readDicom } from '../../core/dicom/read';
import type { CaseWords } from '../../core/shelf/teachingCase';
import { sayNoLettering } from '../deidentify/lettering';
import { layVeils } from '../deidentify/veils';
import { newId } from '../ids';
import { takeAway } from '../pictures/away';
import { caseFiles } from './casePackage';
import { caseFile, shelf, shelfQuery, teachingCase } from './caseViews';
import { caseRow } from './caseRows';
import { caseWish, changeCase, dropCase, forgetCases, makeCase } from './cases';
import { packCase } from './packCase';

const clinic = useClinic();
const who = () => clinic.caller('assistant');
const words: CaseWords = {
  title: 'A shadow under a second molar',
  description: 'Pain for two weeks.',
  keyWords: ['lower jaw', 'root'],
  ageBand: '30 to 44',
  diagnosis: { system: 'ICD-10', code: 'K04.5', words: 'Chronic apical periodontitis' },
  findings: 'A lucency of 4 mm about a mesial root.'
};
async function pictures(...letters: string[]): Promise<string[]> {
  const visitId = await clinic.newVisit();
  const ids = [];
  for (const text of letters) {
    const id = await clinic.bring(visitId, `Wavecrest ${ids.length}.png`, await letteredPng(text));
    await sayNoLettering(who(), id, randomUUID());
    ids.push(id);
  }
  return ids;
}
const drawOn = (pictureId: string) => drawLength(clinic, pictureId);
async function made(pictureIds: string[], part: Partial<CaseWords> = {}, why?: string): Promise<string> {
  const { caseId } = await makeCase(
    who(),
    randomUUID(),
    caseWish.parse({ pictureIds, ruleId: null, words: { ...words, ...part }, ...(why ? { why } : {}) })
  );
  await packCase(clinic.clinicId, caseId);
  return caseId;
}
const change = (caseId: string, wish: Parameters<typeof changeCase>[3]) =>
  changeCase(who(), randomUUID(), caseId, wish);
async function packageOf(caseId: string): Promise<Map<string, Uint8Array>> {
  const files = new Map<string, Uint8Array>();
  const row = await clinic.inside((tx) => caseRow(tx, caseId));
  for await (const { path, bytes } of caseFiles(clinic.clinicId, row)) files.set(path, bytes);
  return files;
}
const objects = (files: Map<string, Uint8Array>) =>
  [...files]
    .filter(([path]) => path.startsWith('DICOM/'))
    .map(([, bytes]) => readDicom(bytes, (packed) => packed));
const found = async (query: object) =>
  (await shelf(clinic.caller(), shelfQuery.parse(query))).map(({ caseId }) => caseId);

describe('a teaching case', () => {
  it('has nothing but its number for a name, pictures of its own, and no tie to another case of the same patient', async () => {
    const [picture] = await pictures('');
    await drawOn(picture);
    const [first, second] = [await made([picture]), await made([picture])];
    const [one, two] = [
      await teachingCase(clinic.caller(), first),
      await teachingCase(clinic.caller(), second)
    ];
    expect([one.state, one.number, two.number - one.number]).toEqual(['ready', one.number, 1]);
    const [entry] = one.entries;
    expect([entry.plain.length, entry.drawn.length]).toEqual([1, 1]);
    const [plain, drawn] = await Promise.all(
      [...entry.plain, ...entry.drawn].map((file) => caseFile(clinic.caller(), first, file))
    );
    expect(plain.subarray(0, 2)).toEqual(Buffer.from([0xff, 0xd8]));
    expect(drawn.equals(plain)).toBe(false);
    const [mine, other] = [await packageOf(first), await packageOf(second)];
    const number = String(one.number).padStart(4, '0');
    for (const set of objects(mine)) {
      expect([utf8(set, '00100010'), utf8(set, '00100020')]).toEqual([number, number]);
      expect(utf8(set, '00120062')).toBe('YES');
    }
    const uids = (files: Map<string, Uint8Array>) =>
      objects(files).flatMap((set) => ['0020000D', '0020000E', '00080018'].map((tag) => utf8(set, tag)));
    expect(uids(mine).filter((uid) => uids(other).includes(uid))).toEqual([]);
    for (const [path, bytes] of mine)
      expect(`${path} ${Buffer.from(bytes).toString('latin1')}`).not.toMatch(/wavecrest|odile|REC-77|YT-/i);
    // What is done in the chart later changes nothing here.
    await takeAway(clinic.caller(), randomUUID(), 'bin', { pictureIds: [picture], reason: 'Twice' });
    expect((await packageOf(first)).size).toBe(mine.size);
  });

  it('is a package with an index and a page that hides what was found, and with what is read back', async () => {
    const ids = await pictures('', '');
    await drawOn(ids[0]);
    const files = await packageOf(await made(ids));
    expect([...files.keys()].sort()).toEqual(
      expect.arrayContaining(['DICOMDIR', 'fhir-bundle.json', 'index.html', 'yonder-package.json'])
    );
    const shown = [...files.keys()].filter((path) => path.startsWith('pictures/'));
    expect(shown).toHaveLength(2);
    expect([...files.keys()].filter((path) => path.startsWith('found/'))).toHaveLength(1);
    const page = Buffer.from(files.get('index.html')!).toString('utf8');
    const [before, after] = page.split('<div hidden>');
    expect(before).toContain('Pain for two weeks.');
    expect(before).not.toContain('lucency');
    expect(after).toContain('lucency');
    const told = JSON.parse(Buffer.from(files.get('yonder-package.json')!).toString('utf8')) as {
      pictures: { files: string[] }[];
    };
    expect(told.pictures.flatMap((each) => each.files).sort()).toEqual(shown.sort());
  });

  it('is found by its number, words, age and code, and by nothing that only looks like a wild card', async () => {
    const caseId = await made(await pictures(''), { title: 'Something at 100 %', keyWords: ['Zebra'] });
    const { number } = await teachingCase(clinic.caller(), caseId);
    for (const query of [
      { words: String(number).padStart(4, '0') },
      { words: 'zebra' },
      { words: 'ZEB 100' },
      { words: 'k04.5 zebra', age: '30 to 44', system: 'ICD-10' },
      { words: '0 %' }
    ])
      expect(await found(query)).toContain(caseId);
    for (const query of [{ words: 'zebra nothing' }, { words: 'zebra', age: '6 to 11' }, { words: 'zeb_a' }])
      expect(await found(query)).not.toContain(caseId);
    await dropCase(who(), randomUUID(), caseId);
    expect(await found({})).not.toContain(caseId);
    const next = await teachingCase(clinic.caller(), await made(await pictures('')));
    expect(next.number).toBe(number + 1);
  });

  it('has its bytes removed for good once it was off the shelf for the days of the bin, but what others have', async () => {
    const ids = await pictures('', '');
    const [kept, gone] = [await made([ids[0]]), await made(ids)];
    const digests = async (caseId: string) =>
      (
        await clinic.owner.query<{ sha: string }>(
          `select distinct encode(f.sha256, 'hex') as sha from case_file f join case_entry e using (clinic_id, entry_id)
           where e.case_id = $1`,
          [caseId]
        )
      ).rows.map(({ sha }) => sha);
    const blobs = async (shas: readonly string[]) =>
      (
        await clinic.owner.query<{ sha: string }>(
          `select encode(sha256, 'hex') as sha from blob where encode(sha256, 'hex') = any($1)`,
          [shas]
        )
      ).rows.map(({ sha }) => sha);
    const [ofKept, ofGone] = [await digests(kept), await digests(gone)];
    await dropCase(who(), randomUUID(), gone);
    await forgetCases(clinic.clinicId);
    expect(await blobs(ofGone)).toHaveLength(ofGone.length);
    await clinic.owner.query(
      `update teaching_case set dropped_at = now() - interval '91 days' where case_id = $1`,
      [gone]
    );
    await forgetCases(clinic.clinicId);
    expect(await digests(gone)).toEqual([]);
    // A drawing shows the number of its case, so that each case has bytes of its own.
    const shared = ofGone.filter((sha) => ofKept.includes(sha));
    expect((await blobs(ofGone)).sort()).toEqual(shared.sort());
    expect((await packageOf(kept)).size).toBeGreaterThan(3);
  });

  it('is reordered, and pictures are left out of it and come back', async () => {
    const caseId = await made(await pictures('', '', ''));
    const ids = (await teachingCase(clinic.caller(), caseId)).entries.map(({ entryId }) => entryId);
    await change(caseId, { act: 'write', words: { ...words, title: 'Another' }, order: [ids[2], ids[0]] });
    const changed = await teachingCase(clinic.caller(), caseId);
    expect(changed.entries.map(({ entryId, dropped }) => [entryId, dropped])).toEqual([
      [ids[2], false],
      [ids[0], false],
      [ids[1], true]
    ]);
    expect([changed.words.title, changed.pictures]).toEqual(['Another', 2]);
    expect([...(await packageOf(caseId)).keys()].filter((path) => path.startsWith('pictures/'))).toHaveLength(
      2
    );
    await change(caseId, { act: 'write', words, order: ids });
    expect((await teachingCase(clinic.caller(), caseId)).pictures).toBe(3);
    await expect(change(caseId, { act: 'write', words, order: [newId()] })).rejects.toMatchObject({
      code: 'not-found'
    });
  });

  it('holds no name in its words, unless somebody says that it is none', async () => {
    const ids = await pictures('');
    for (const part of [
      { title: 'A Wavecrest jaw' },
      { findings: 'as Odile said' },
      { keyWords: ['REC-77'] },
      { diagnosis: { system: 'ICD-10' as const, code: 'K04.5', words: 'that of Odile' } }
    ])
      await expect(made(ids, part)).rejects.toMatchObject({ code: 'name-in-words' });
    const caseId = await made(ids, { title: 'On a wavecrest' }, 'A wavecrest is a word here');
    const { words: kept, entries } = await teachingCase(clinic.caller(), caseId);
    expect(kept.title).toContain('wavecrest');
    const order = entries.map(({ entryId }) => entryId);
    await expect(
      change(caseId, { act: 'write', words: { ...words, description: 'For Odile' }, order })
    ).rejects.toMatchObject({ code: 'name-in-words' });
  });

  it('is stopped by a name in a picture and shows none of it, until a veil lies over it or somebody lets it stand', async () => {
    const ids = await pictures('', 'Wavecrest Odile');
    const caseId = await made(ids);
    const stopped = await teachingCase(clinic.caller(), caseId);
    expect(stopped.state).toBe('stopped');
    expect(stopped.found.map((each) => each.words).join()).toMatch(/wavecrest.* in the picture itself/i);
    expect(stopped.entries.flatMap(({ plain }) => plain)).toEqual([]);
    await change(caseId, { act: 'again' });
    await packCase(clinic.clinicId, caseId);
    expect((await teachingCase(clinic.caller(), caseId)).state).toBe('stopped');
    await change(caseId, { act: 'let stand', why: 'It is the name of a beach' });
    await packCase(clinic.clinicId, caseId);
    const stands = await teachingCase(clinic.caller(), caseId);
    expect(stands.state).toBe('ready');
    expect(stands.letGo).toMatch(/: It is the name of a beach$/);
    expect(stands.entries.every(({ plain }) => plain.length === 1)).toBe(true);
    // The other way: a veil over it, and it is looked through again.
    const veiled = await made(ids);
    await layVeils(who(), ids[1], randomUUID(), {
      veils: {
        veils: [{ left: 0, top: 0, width: letteredSize.width, height: 60 }],
        only: null,
        looked: true
      },
      also: []
    });
    await change(veiled, { act: 'again' });
    await packCase(clinic.clinicId, veiled);
    expect((await teachingCase(clinic.caller(), veiled)).state).toBe('ready');
  });

  it('that is stopped goes on once the picture that stops it is left out, and packs it when it comes back', async () => {
    const ids = await pictures('', 'WAVECREST ODILE');
    const caseId = await made(ids);
    const entries = (await teachingCase(clinic.caller(), caseId)).entries.map(({ entryId }) => entryId);
    await change(caseId, { act: 'write', words, order: [entries[0]] });
    await packCase(clinic.clinicId, caseId);
    const left = await teachingCase(clinic.caller(), caseId);
    expect([left.state, left.pictures, left.found]).toEqual(['ready', 1, []]);
    await layVeils(who(), ids[1], randomUUID(), {
      veils: {
        veils: [{ left: 0, top: 0, width: letteredSize.width, height: 60 }],
        only: null,
        looked: true
      },
      also: []
    });
    await clinic.owner.query('delete from case_file where entry_id = $1', [entries[1]]);
    await clinic.owner.query('update case_entry set about = null, found = null where entry_id = $1', [
      entries[1]
    ]);
    await change(caseId, { act: 'write', words, order: entries });
    expect((await teachingCase(clinic.caller(), caseId)).state).toBe('packing');
    await packCase(clinic.clinicId, caseId);
    const back = await teachingCase(clinic.caller(), caseId);
    expect([back.state, back.entries.map(({ plain }) => plain.length)]).toEqual(['ready', [1, 1]]);
  });

  it('is made by those who may send, of pictures that somebody has looked at', async () => {
    const ids = await pictures('');
    const wish = caseWish.parse({ pictureIds: ids, ruleId: null, words });
    await expect(makeCase(clinic.caller('administrator'), randomUUID(), wish)).rejects.toMatchObject({
      code: 'not-allowed'
    });
    const key = randomUUID();
    const [one, again] = [await makeCase(who(), key, wish), await makeCase(who(), key, wish)];
    expect(again).toEqual(one);
    await expect(
      teachingCase({ ...clinic.caller(), clinicId: clinic.otherClinicId }, one.caseId)
    ).rejects.toMatchObject({
      code: 'not-found'
    });
    const visitId = await clinic.newVisit();
    const unlooked = await clinic.bring(visitId, 'photo.png', await letteredPng('Odile'));
    const lookFirst = makeCase(who(), randomUUID(), { ...wish, pictureIds: [unlooked] });
    await expect(lookFirst).rejects.toMatchObject({ status: 409 });
  });
});
