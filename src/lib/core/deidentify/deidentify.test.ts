import { describe, expect, it } from 'vitest';
import { type Dataset, dataset, firstText, inText, isSequence } from '../dicom/dataset';
import { dictionaryEntries } from '../dicom/dictionary';
import { exampleFacts } from '../dicom/objects/exampleFacts.test-data';
import { datasetForPicture } from '../dicom/objects/forPicture';
import { writeDicomFile } from '../dicom/write';
import { type Pseudonym, changes, deidentified } from './deidentify';
import { leavingActs } from './keepList';

const pseudonym: Pseudonym = {
  name: 'QUIET-7',
  dateShiftDays: -40,
  replaceUid: (uid) => `2.25.9${uid.length}${uid.at(-1)}`
};
const bytesAsText = (bytes: Uint8Array) => new TextDecoder('latin1').decode(bytes);

describe('deidentified', () => {
  const before = datasetForPicture(exampleFacts());
  const after = deidentified(before, pseudonym);

  it('lets no planted word leave in the written file', () => {
    expect(bytesAsText(writeDicomFile(before)).match(/planted/gi)?.length).toBeGreaterThan(5);
    expect(bytesAsText(writeDicomFile(after))).not.toMatch(/planted/i);
    expect(bytesAsText(writeDicomFile(after))).not.toContain('19700102');
  });
  it('replaces name and number by the pseudonym, moves dates, hides times, changes UIDs', () => {
    expect(firstText(after, 'PatientName')).toBe('QUIET-7');
    expect(firstText(after, 'PatientID')).toBe('QUIET-7');
    expect(firstText(after, 'StudyDate')).toBe('20240121');
    expect(firstText(after, 'ContentTime')).toBe('120000');
    expect(firstText(after, 'StudyInstanceUID')).not.toBe('2.25.111');
    expect(firstText(after, 'PatientIdentityRemoved')).toBe('YES');
  });
  it('keeps the picture itself', () => {
    const pixels = (set: Dataset) => set.find((e) => e.tag === '7FE00010')!.value;
    expect(pixels(after)).toEqual(pixels(before));
    expect(firstText(after, 'ImageLaterality')).toBe('R');
  });
  it('does not touch what it was given', () => {
    expect(firstText(before, 'PatientName')).toBe('Planted^Name');
  });
  it('lets nothing leave that is not on the list, for every attribute of the standard', () => {
    const marker = 'PLANTED1';
    const set: Dataset = dictionaryEntries()
      .filter(({ vr, keyword }) => ['LO', 'SH', 'PN', 'ST', 'LT', 'UT', 'UC'].includes(vr) && keyword)
      .map(({ tag, vr }) => ({ tag, vr, value: [marker] }));
    set.push({ tag: '00091001', vr: 'LO', value: [marker] });
    const left = deidentified(set, pseudonym).filter((e) => inText(e).includes(marker));
    const kept = left.map((e) => e.tag).sort();
    const allowed = ['00080100', '00080102', '00080104'].sort();
    expect(kept).toEqual(allowed);
  });
  it('lets a maker’s words leave only where they are known to name nobody', () => {
    const after = (keyword: string, value: string) =>
      firstText(deidentified(dataset({ [keyword]: value }), pseudonym), keyword);
    expect(after('Manufacturer', 'Yonder Tray stand-ins')).toBe('Yonder Tray stand-ins');
    expect(after('Manufacturer', 'Dr Marrowby’s scanner')).toBeUndefined();
    expect(after('ManufacturerModelName', 'for Isolde')).toBeUndefined();
    expect(after('LossyImageCompressionMethod', 'ISO_10918_1')).toBe('ISO_10918_1');
    expect(after('LossyImageCompressionMethod', 'MARROWBY')).toBeUndefined();
    expect(after('LossyImageCompressionRatio', '12.5')).toBe('12.5');
    expect(after('LossyImageCompressionRatio', 'by Marrowby')).toBeUndefined();
    expect(
      after('PixelSpacingCalibrationDescription', 'a line over 10 mm, relative uncertainty 0.012')
    ).toMatch(/10 mm/);
    expect(
      after('PixelSpacingCalibrationDescription', 'Isolde’s ball, relative uncertainty 0.01')
    ).toBeUndefined();
    expect(after('SoftwareVersions', '1.0')).toBeUndefined();
  });
  it('treats nested items by the same list', () => {
    const nested = dataset({
      AnatomicRegionSequence: [
        { CodeValue: '661005', CodingSchemeDesignator: 'SCT', CodeMeaning: 'Jaw', OperatorsName: 'Planted' }
      ]
    });
    const value = deidentified(nested, pseudonym).find((e) => e.tag === '00082218')!.value;
    expect(isSequence(value) && value[0].map((e) => e.tag)).toEqual(['00080100', '00080102', '00080104']);
  });
  it('acts only on keywords the standard knows', () => {
    const known = new Set(dictionaryEntries().map(({ keyword }) => keyword));
    expect([...leavingActs.keys()].filter((keyword) => !known.has(keyword))).toEqual([]);
  });
});

describe('changes', () => {
  it('shows every attribute of the picture and of its file, before and after', () => {
    const before = datasetForPicture(exampleFacts());
    const after = deidentified(before, pseudonym);
    const rows = changes(before, [{ tag: '00091001', text: 'a private word' }], after);
    const row = (tag: string) => rows.find((r) => r.tag === tag);
    expect(row('00091001')).toMatchObject({ what: 'removed', before: 'a private word', after: '' });
    expect(row('00100010')).toMatchObject({ what: 'replaced', name: 'Patient Name', after: 'QUIET-7' });
    expect(row('00080020')).toMatchObject({ what: 'moved' });
    expect(row('00100030')).toMatchObject({ what: 'emptied' });
    expect(row('00120062')).toMatchObject({ what: 'added' });
    expect(row('00280010')).toMatchObject({ what: 'kept' });
    expect(new Set(rows.map((r) => r.tag)).size).toBe(rows.length);
    for (const { tag } of [...before, ...after]) expect(row(tag)).toBeDefined();
  });
});
