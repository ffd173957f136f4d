import { describe, expect, it } from 'vitest';
import { type Dataset, dataset, firstText, inText, isSequence } from '../dicom/dataset';
import { dictionaryEntries } from '../dicom/dictionary';
import { exampleFacts } from '../dicom/objects/exampleFacts.test-data';
import { datasetForPicture } from '../dicom/objects/forPicture';
import { writeDicomFile } from '../dicom/write';
import { everyKind } from '../dicom/objects/everyKind.test-data';
import { type Leaving, type Pseudonym, changes, deidentified } from './deidentify';
import { leavingActs } from './keepList';
import { profileOptions, profileRow, profileRows } from './profileTable';
import { identityTerms } from './residual';
import { type LeavingRule, methodCodes, ruleWords, usualRule } from './rule';

const pseudonym: Pseudonym = {
  name: 'QUIET-7',
  dateShiftDays: -40,
  clockShiftSeconds: 3600,
  replaceUid: (uid) => `2.25.9${uid.length}${uid.at(-1)}`
};
const by = (rule: Partial<LeavingRule> = {}, terms: string[] = []): Leaving => ({
  rule: { ...usualRule, ...rule },
  pseudonym,
  terms,
  pixelsCleaned: false
});
const usual = by();
const noon = by({ times: 'noon' });
const bytesAsText = (bytes: Uint8Array) => new TextDecoder('latin1').decode(bytes);

const marker = 'PLANTED1';
/** A value of its representation that can be found again; none for those that hold numbers. */
const plants: Readonly<Record<string, string>> = {
  ...Object.fromEntries(['LO', 'SH', 'PN', 'ST', 'LT', 'UT', 'UC', 'UR', 'AE'].map((vr) => [vr, marker])),
  CS: marker,
  DA: '19881231',
  TM: '031415',
  DT: '19881231031415',
  AS: '088Y',
  UI: '2.25.8888888888'
};
const plantedWords = [marker, '19881231', '031415', '2.25.8888888888', '088Y'];
/** Every attribute of the registry that can hold a text, with one planted in it, a private one and overlays too. */
function planted(only: (tag: string) => boolean = () => true): Dataset {
  const set: Dataset = dictionaryEntries()
    .filter(({ tag, vr, keyword }) => plants[vr] && keyword && vr !== 'CS' && tag > '00080000' && only(tag))
    .map(({ tag, vr }) => ({ tag, vr, value: [plants[vr]] }));
  return [
    ...set,
    { tag: '00091001', vr: 'LO', value: [marker] },
    { tag: '60003000', vr: 'OB', value: new TextEncoder().encode(marker) },
    { tag: '60004000', vr: 'LO', value: [marker] },
    { tag: '50003000', vr: 'OW', value: new TextEncoder().encode(marker) },
    {
      tag: '00880200',
      vr: 'SQ',
      value: [[{ tag: '7FE00010', vr: 'OB', value: new TextEncoder().encode(marker) }]]
    }
  ];
}

describe('the standard’s table', () => {
  it('is there whole, each row once, by actions and options that the standard has', () => {
    expect(profileRows.size).toBeGreaterThan(550);
    for (const [tag, { keyword, basic, options }] of profileRows) {
      expect(tag, keyword).toMatch(/^[0-9A-F]{8}$/);
      expect(basic, keyword).toMatch(/^(D|Z|X|U|X\/Z|X\/D|Z\/D|X\/Z\/D|X\/Z\/U\*)$/);
      for (const option of Object.keys(options)) expect(profileOptions, keyword).toContain(option);
    }
  });
  it('names what repeats and what is private by rule', () => {
    expect(profileRow('60023000')?.options).toEqual({ graphics: 'C' });
    expect(profileRow('50104000')?.basic).toBe('X');
    expect(profileRow('00091001')?.keyword).toBe('Private Attributes');
    expect(profileRow('00280010')).toBeUndefined();
  });
  it('agrees with the keep-list: nothing is listed as kept that the profile takes out', () => {
    for (const [keyword, act] of leavingActs) {
      const row = [...profileRows.values()].find((each) => each.keyword === keyword);
      if (act === 'keep' || act === 'known') expect(row, keyword).toBeUndefined();
    }
  });
});

describe.each(Object.entries(everyKind))('of %s', (_, facts) => {
  it('nothing leaves that was planted in any attribute of the table, whatever the rule', () => {
    const own = datasetForPicture(exampleFacts(facts));
    const tags = new Set(own.map(({ tag }) => tag));
    const rows = new Set(profileRows.keys());
    // Also what the object has itself: there the planted value takes its place.
    const spoilt = own.map((element) =>
      rows.has(element.tag) && plants[element.vr] && element.vr !== 'CS'
        ? { ...element, value: [plants[element.vr]] }
        : element
    );
    const set = [...spoilt, ...planted((tag) => rows.has(tag) && !tags.has(tag))];
    const sorted = set.sort((a, b) => (a.tag < b.tag ? -1 : 1));
    for (const rule of [{}, { dates: 'removed' }, { words: 'cleaned', graphics: 'cleaned' }] as const) {
      const bytes = writeDicomFile(deidentified(sorted, by(rule, identityTerms([marker], []))));
      const text = bytesAsText(bytes);
      for (const word of plantedWords) expect(text.includes(word), word).toBe(false);
    }
  });
});

describe('a rule’s options', () => {
  const set = dataset({
    PatientSex: 'F',
    PatientAge: '044Y',
    PatientName: 'Marrowby^Isolde',
    DeviceSerialNumber: 'SN-7',
    Manufacturer: 'Kelpworks',
    InstitutionName: 'Quill Sound',
    InstitutionalDepartmentName: 'Eyes',
    StudyDate: '20240301',
    StudyTime: '233000',
    SeriesDate: '20240302',
    ContentDate: '20240302',
    ContentTime: '001500',
    AcquisitionDateTime: '20240301233000.5+0100',
    StudyDescription: 'Isolde Marrowby, left wrist (QS-1004)',
    SOPInstanceUID: '2.25.5'
  });
  const terms = identityTerms(['Marrowby^Isolde'], ['QS-1004']);
  const after = (rule: Partial<LeavingRule>) => {
    const out = deidentified(set, by(rule, terms));
    return (keyword: string) => firstText(out, keyword);
  };
  it('keep what they are named for and nothing else', () => {
    expect(['PatientSex', 'PatientAge', 'DeviceSerialNumber', 'InstitutionName'].map(after({}))).toEqual([
      undefined,
      undefined,
      undefined,
      undefined
    ]);
    expect(after({ characteristics: true })('PatientAge')).toBe('044Y');
    expect(after({ characteristics: true })('DeviceSerialNumber')).toBeUndefined();
    expect(after({ device: true })('DeviceSerialNumber')).toBe('SN-7');
    expect(after({ device: true })('Manufacturer')).toBe('Kelpworks');
    expect(after({ institution: true })('InstitutionalDepartmentName')).toBe('Eyes');
    expect(after({ uids: 'kept' })('SOPInstanceUID')).toBe('2.25.5');
    expect(after({ uids: 'kept', device: true })('PatientName')).toBe('QUIET-7');
  });
  it('move a date and its time as one instant, over midnight too', () => {
    const moved = after({});
    // An hour later and forty days earlier: 2024-03-02 00:30 less 40 days.
    expect([moved('StudyDate'), moved('StudyTime')]).toEqual(['20240122', '003000']);
    expect([moved('ContentDate'), moved('ContentTime')]).toEqual(['20240122', '011500']);
    expect(moved('SeriesDate')).toBe('20240122');
    expect(moved('AcquisitionDateTime')).toBe('20240122003000.5');
    const atNoon = after({ times: 'noon' });
    expect([atNoon('StudyDate'), atNoon('StudyTime')]).toEqual(['20240121', '120000']);
    const kept = after({ dates: 'kept' });
    expect([kept('StudyDate'), kept('StudyTime')]).toEqual(['20240301', '233000']);
  });
  it('take dates out, with a day that says nothing where the object must have one', () => {
    const out = after({ dates: 'removed' });
    expect([out('StudyDate'), out('ContentDate'), out('AcquisitionDateTime')]).toEqual([
      undefined,
      '20000101',
      '20000101120000'
    ]);
  });
  it('keep words without names and numbers', () => {
    expect(after({})('StudyDescription')).toBeUndefined();
    expect(after({ words: 'cleaned' })('StudyDescription')).toBe('…, left wrist (…)');
  });
  it('are said in the object by the standard’s codes, and in words', () => {
    const codes = (rule: Partial<LeavingRule>, cleaned = false) =>
      methodCodes({ ...usualRule, ...rule }, cleaned).map(([code]) => code);
    expect(codes({})).toEqual(['113100', '113107']);
    expect(codes({ dates: 'kept', uids: 'kept' }, true)).toEqual(['113100', '113101', '113106', '113110']);
    expect(codes({ dates: 'removed', words: 'cleaned', graphics: 'cleaned', structured: 'cleaned' })).toEqual(
      ['113100', '113103', '113104', '113105']
    );
    expect(codes({ device: true, institution: true, characteristics: true })).toEqual([
      '113100',
      '113107',
      '113108',
      '113109',
      '113112'
    ]);
    const said = (dates: LeavingRule['dates']) =>
      firstText(deidentified(set, by({ dates })), 'LongitudinalTemporalInformationModified');
    expect((['moved', 'kept', 'removed'] as const).map(said)).toEqual(['MODIFIED', 'UNMODIFIED', 'REMOVED']);
    expect(ruleWords(usualRule).join(' ')).toMatch(/moved together.*Nothing about the person/);
    expect(ruleWords({ ...usualRule, device: true, graphics: 'cleaned' })[1]).toBe('Kept: the device.');
  });
});

describe('deidentified', () => {
  const before = datasetForPicture(exampleFacts());
  const after = deidentified(before, usual);

  it('lets no planted word leave in the written file', () => {
    expect(bytesAsText(writeDicomFile(before)).match(/planted/gi)?.length).toBeGreaterThan(5);
    expect(bytesAsText(writeDicomFile(after))).not.toMatch(/planted/i);
    expect(bytesAsText(writeDicomFile(after))).not.toContain('19700102');
  });
  it('replaces name and number by the pseudonym, moves dates and times together, changes UIDs', () => {
    expect(firstText(after, 'PatientName')).toBe('QUIET-7');
    expect(firstText(after, 'PatientID')).toBe('QUIET-7');
    expect(firstText(after, 'StudyDate')).toBe('20240121');
    expect(firstText(after, 'ContentTime')).toBe('102233');
    expect(firstText(deidentified(before, noon), 'ContentTime')).toBe('120000');
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
    const left = deidentified(planted(), usual).filter((e) => inText(e).includes(marker));
    expect(left.map((e) => e.tag).sort()).toEqual(['00080100', '00080102', '00080104', '00700006'].sort());
  });
  it('lets a maker’s words leave only where they are known to name nobody', () => {
    const after = (keyword: string, value: string) =>
      firstText(deidentified(dataset({ [keyword]: value }), usual), keyword);
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
    const value = deidentified(nested, usual).find((e) => e.tag === '00082218')!.value;
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
    const after = deidentified(before, usual);
    const rows = changes(before, [{ tag: '00091001', text: 'a private word' }], after, usual.rule);
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
