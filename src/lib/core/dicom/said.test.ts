import dicomParser from 'dicom-parser';
import { describe, expect, it } from 'vitest';
import { Unreadable, readVersioned } from '../versioned';
import { dictionaryEntries, entryFor } from './dictionary';
import { exampleFacts } from './objects/exampleFacts.test-data';
import { datasetForPicture } from './objects/forPicture';
import { type SaidAttribute, misfit, mostSaid, saidAttributes, sayable, unsayable, withSaid } from './said';
import { writeDicomFile } from './write';

const said = (keyword: string, text: string): SaidAttribute => ({ tag: entryFor(keyword).tag, text });

describe('what is said of a picture by hand', () => {
  it.each([
    ['BodyPartExamined', 'HAND', null],
    ['BodyPartExamined', 'hand', 'capitals'],
    ['BodyPartExamined', 'A NAME OF SEVENTEEN', '16 at most'],
    ['PatientAge', '042Y', null],
    ['PatientAge', '42', 'an age'],
    ['AcquisitionDate', '20240229', null],
    ['AcquisitionDate', '20250229', 'a date'],
    ['AcquisitionDate', '29.2.2024', 'a date'],
    ['AcquisitionTime', '2359', null],
    ['AcquisitionTime', '2460', 'a time'],
    ['AcquisitionDateTime', '20240229101500.25+0100', null],
    ['PatientWeight', '3.5', null],
    ['PatientWeight', '-.5E2', null],
    ['PatientWeight', '3,5', 'a number'],
    ['PatientWeight', '1234567890.1234567', 'a number'],
    ['ExposureTime', '12', null],
    ['ExposureTime', '12.5', 'a whole number'],
    ['ExposureTime', '2147483648', 'a whole number'],
    ['StudyDescription', '', null],
    ['InstitutionName', 'Quill Sound', null],
    ['InstitutionName', 'x'.repeat(65), '64 characters'],
    ['InstitutionAddress', 'Pier 4\nQuill Sound', null],
    ['InstitutionName', 'Pier 4\nQuill Sound', 'text of 64'],
    ['StudyDescription', 'a\u0007b', 'text of 64'],
    ['ImageType', 'ORIGINAL\\PRIMARY', null],
    ['ImageType', 'ORIGINAL\\PRIMARY\\', null],
    ['SelectorUSValue', '3\\', 'a whole number'],
    ['ImageType', 'ORIGINAL\\primary', '“primary” is not'],
    ['ImageComments', 'left\\right', null],
    ['FrameOfReferenceUID', '1.2.840.10008.1', null],
    ['FrameOfReferenceUID', '1.02.3', 'a UID'],
    ['RecommendedDisplayFrameRate', '30', null],
    ['ReferencedFrameNumber', '3\\4', null],
    ['DerivationDescription', '“Größe” 東', null]
  ] as const)('%s “%s”: %s', (keyword, typed, why) => {
    const found = misfit(said(keyword, typed));
    if (why === null) expect(found).toBeNull();
    else expect(found).toContain(why);
  });

  it.each([
    ['PatientName', 'the chart'],
    ['PatientID', 'the chart'],
    ['StudyDate', 'all pictures of a visit'],
    ['AccessionNumber', 'all pictures of a visit'],
    ['SOPInstanceUID', 'which object'],
    ['Modality', 'which object'],
    ['Rows', 'how the picture is stored'],
    ['PixelData', 'how the picture is stored'],
    ['ImagerPixelSpacing', 'its scale'],
    ['PatientIdentityRemoved', 'de-identifying'],
    ['AnatomicRegionSequence', 'can’t be typed'],
    ['EncapsulatedDocument', 'can’t be typed']
  ])('%s is said by something else', (keyword, why) => {
    expect(unsayable(entryFor(keyword).tag)).toContain(why);
    expect(misfit(said(keyword, ''))).toContain(why);
  });
  it('is of the standard alone', () => {
    expect(unsayable('00110010')).toContain('No attribute of the standard');
    expect(misfit({ tag: '00091001', text: 'x' })).not.toBeNull();
  });

  it('stands in the object in place of what was proposed, or beside it, and another parser reads it', () => {
    const before = datasetForPicture(exampleFacts());
    const all = [
      said('InstitutionName', 'Pier clinic'),
      said('PatientWeight', '71.5'),
      said('ReferencedFrameNumber', '3\\4'),
      said('SamplesPerPixelUsed', '')
    ].filter(({ tag }) => unsayable(tag) === null);
    const after = withSaid(before, all);
    expect(after.map(({ tag }) => tag)).toEqual(after.map(({ tag }) => tag).toSorted());
    const parsed = dicomParser.parseDicom(writeDicomFile(after));
    expect(parsed.string('x00080080')).toBe('Pier clinic');
    expect(parsed.floatString('x00101030')).toBe(71.5);
    expect(parsed.string('x00081160')).toBe('3\\4');
    expect(parsed.string('x00100010')).toBe('Planted^Name');
    expect(withSaid(before, [])).toBe(before);
    const emptied = dicomParser.parseDicom(writeDicomFile(withSaid(before, [said('InstitutionName', '')])));
    expect(emptied.elements.x00080080.length).toBe(0);
  });

  it('of each kind of number is read back as it was typed', () => {
    const pairs = [
      ['LossyImageCompressionRatio', '12.5'],
      ['PregnancyStatus', '4'],
      ['SelectorSLValue', '-70000'],
      ['SelectorSSValue', '-7'],
      ['SelectorULValue', '4294967295'],
      ['SelectorFDValue', '0.1'],
      ['SelectorFLValue', '0.5']
    ].flatMap(([keyword, typed]) => {
      const each = said(keyword, typed);
      return unsayable(each.tag) ? [] : [each];
    });
    expect(pairs.length).toBeGreaterThanOrEqual(5);
    const parsed = dicomParser.parseDicom(writeDicomFile(withSaid(datasetForPicture(exampleFacts()), pairs)));
    expect(parsed.uint16('x001021c0')).toBe(4);
    expect(parsed.int32('x0072007c')).toBe(-70_000);
    expect(parsed.int16('x0072007e')).toBe(-7);
    expect(parsed.uint32('x00720078')).toBe(4_294_967_295);
    expect(parsed.double('x00720074')).toBe(0.1);
    expect(parsed.float('x00720076')).toBe(0.5);
  });

  it('is kept as it is, and refused where it does not fit, is said twice, or is too much', () => {
    const fit = [said('BodyPartExamined', 'HAND'), said('PatientWeight', '70')];
    expect(readVersioned('Attributes', saidAttributes, 1, fit)).toEqual(fit);
    const many = dictionaryEntries()
      .filter(({ tag }) => unsayable(tag) === null)
      .slice(0, mostSaid + 1)
      .map(({ tag }) => ({ tag, text: '' }));
    for (const wrong of [
      [said('BodyPartExamined', 'hand')],
      [fit[0], fit[0]],
      many,
      [{ tag: 'x', text: '' }]
    ])
      expect(() => readVersioned('Attributes', saidAttributes, 1, wrong)).toThrow(Unreadable);
  });

  it('is found by any words of its name, or by its tag, and never what can’t be said', () => {
    const names = (words: string) => sayable(words).map(({ name }) => name);
    expect(names('weight patient')[0]).toBe('Patient Weight');
    expect(names('0010,1030')).toEqual(['Patient Weight']);
    expect(names('patient name')).not.toContain('Patient Name');
    expect(names('   ')).toEqual([]);
    expect(names('e').length).toBe(8);
  });
});
