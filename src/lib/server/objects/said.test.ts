import { randomUUID } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { letteredPng } from '../../../../e2e/harness/lettered';
import { firstText } from '../../core/dicom/dataset';
import { entryFor } from '../../core/dicom/dictionary';
import { writeDicomFile } from '../../core/dicom/write';
import { leaving } from '../deidentify/leaving';
import { pictureRow } from '../pictures/views';
import { pictureDataset } from './pictureObject';
import { sayAttribute } from './said';

const clinic = useClinic();
const who = () => clinic.caller('assistant');
const tagOf = (keyword: string) => entryFor(keyword).tag;
const say = (pictureId: string, keyword: string, text: string | null, key: string = randomUUID()) =>
  sayAttribute(who(), pictureId, key, { tag: tagOf(keyword), text });
const objectOf = (pictureId: string) =>
  clinic.inside(async (tx) => pictureDataset(tx, await pictureRow(tx, pictureId), new Uint8Array(2)));
const shownOf = async (visitId: string, pictureId: string) =>
  (await leaving(who(), visitId, [pictureId])).pictures[0];

describe('an attribute that is said of a picture', () => {
  it('stands in its object in place of what was proposed, is seen before it leaves, and is taken back', async () => {
    const visitId = await clinic.newVisit();
    const pictureId = await clinic.bring(visitId, 'hand.png', await letteredPng('hand'));
    const proposed = firstText(await objectOf(pictureId), 'InstitutionName');
    await say(pictureId, 'InstitutionName', 'Pier clinic');
    await say(pictureId, 'ImageComments', 'after the fall');
    await say(pictureId, 'ImageComments', 'after the second fall');
    const set = await objectOf(pictureId);
    expect(firstText(set, 'InstitutionName')).toBe('Pier clinic');
    expect(firstText(set, 'ImageComments')).toBe('after the second fall');
    const shown = await shownOf(visitId, pictureId);
    expect(shown.said).toEqual([
      { tag: tagOf('InstitutionName'), text: 'Pier clinic' },
      { tag: tagOf('ImageComments'), text: 'after the second fall' }
    ]);
    expect(shown.changes.find(({ tag }) => tag === tagOf('ImageComments'))?.before).toBe(
      'after the second fall'
    );
    await say(pictureId, 'InstitutionName', null);
    expect(firstText(await objectOf(pictureId), 'InstitutionName')).toBe(proposed);
    const { rows } = await clinic.owner.query(
      `select 1 from audit_line where act = 'attribute said' and subject = $1`,
      [pictureId]
    );
    expect(rows).toHaveLength(4);
  });

  it('is kept once, and all of what several people say at one moment', async () => {
    const pictureId = await clinic.bring(await clinic.newVisit(), 'a.png', await letteredPng('a'));
    const keywords = [
      'BodyPartExamined',
      'ProtocolName',
      'PatientWeight',
      'ImageComments',
      'StudyDescription'
    ];
    const key = randomUUID();
    await Promise.all([
      ...keywords.map((keyword) => say(pictureId, keyword, '7')),
      say(pictureId, 'OperatorsName', 'Quay', key),
      say(pictureId, 'OperatorsName', 'Quay', key)
    ]);
    const set = await objectOf(pictureId);
    for (const keyword of keywords) expect(firstText(set, keyword), keyword).toBe('7');
    expect(firstText(set, 'OperatorsName')).toBe('Quay');
  });

  it('is refused in words where it does not fit, comes from elsewhere, or the file has attributes of its own', async () => {
    const visitId = await clinic.newVisit();
    const pictureId = await clinic.bring(visitId, 'b.png', await letteredPng('b'));
    await expect(say(pictureId, 'PatientWeight', '3,5')).rejects.toMatchObject({
      code: 'does-not-fit',
      sentence: expect.stringContaining('“3,5” is not')
    });
    await expect(say(pictureId, 'PatientName', 'Other^Name')).rejects.toMatchObject({ code: 'does-not-fit' });
    await expect(
      sayAttribute(clinic.caller('administrator'), pictureId, randomUUID(), {
        tag: tagOf('PatientWeight'),
        text: '3'
      })
    ).rejects.toMatchObject({ code: 'not-allowed' });
    // What an object must have is not left empty; what nobody proposed may be.
    await expect(say(pictureId, 'ImageType', '')).rejects.toMatchObject({ code: 'needs-a-value' });
    expect((await shownOf(visitId, pictureId)).said).toEqual([]);
    const file = writeDicomFile(
      await clinic.inside(async (tx) => {
        const row = await pictureRow(tx, pictureId);
        const samples = new Uint8Array(row.width * row.height * row.channels);
        return (await pictureDataset(tx, row, samples)).map((each) =>
          each.tag === tagOf('SOPInstanceUID') ? { ...each, value: ['2.25.424242'] } : each
        );
      })
    );
    const ownId = await clinic.bring(visitId, 'own.dcm', Buffer.from(file));
    await expect(say(ownId, 'PatientWeight', '3')).rejects.toMatchObject({ code: 'own-attributes' });
    expect((await shownOf(visitId, ownId)).said).toBeNull();
  });

  it('holds back a parcel that says a name where none may stand', async () => {
    const visitId = await clinic.newVisit();
    const pictureId = await clinic.bring(visitId, 'c.png', await letteredPng('c'));
    const name = firstText(await objectOf(pictureId), 'PatientName')!.split('^')[0];
    await say(pictureId, 'ImageComments', `of ${name}`);
    await say(pictureId, 'DerivationDescription', `made for ${name}`);
    const { changes, checked } = await shownOf(visitId, pictureId);
    const leaves = changes.filter(({ after }) => after.toLowerCase().includes(name.toLowerCase()));
    expect(leaves).toEqual([]);
    expect(checked[0]).toContain('none found');
  });
});
