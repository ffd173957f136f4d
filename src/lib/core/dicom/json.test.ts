import { describe, expect, it } from 'vitest';
import { dataset } from './dataset';
import { dicomJson } from './json';

describe('a data set in JSON', () => {
  it('is what the standard’s annex says', () => {
    const set = dataset({
      PatientName: 'Wang^XiaoDong=王^小東',
      ReferringPhysicianName: '',
      ImageType: ['ORIGINAL', '', 'PRIMARY'],
      Rows: 512,
      PixelSpacing: [0.1, '0.15'],
      InstanceNumber: '7',
      RequestAttributesSequence: [{ ScheduledProcedureStepID: 'a' }, {}],
      FrameIncrementPointer: '00181063',
      ICCProfile: Uint8Array.of(0, 1, 254, 255)
    });
    expect(dicomJson(set)).toEqual({
      '00080008': { vr: 'CS', Value: ['ORIGINAL', null, 'PRIMARY'] },
      '00080090': { vr: 'PN' },
      '00100010': { vr: 'PN', Value: [{ Alphabetic: 'Wang^XiaoDong', Ideographic: '王^小東' }] },
      '00200013': { vr: 'IS', Value: [7] },
      '00280009': { vr: 'AT', Value: ['00181063'] },
      '00280010': { vr: 'US', Value: [512] },
      '00280030': { vr: 'DS', Value: [0.1, 0.15] },
      '00282000': { vr: 'OB', InlineBinary: 'AAH+/w==' },
      '00400275': { vr: 'SQ', Value: [{ '00400009': { vr: 'SH', Value: ['a'] } }, {}] }
    });
  });
  it('says of values that lie elsewhere where they lie, in the place of what it holds', () => {
    const set = dataset({ Rows: 1, PixelData: Uint8Array.of(1, 2) }, { PixelData: 'OB' });
    const json = dicomJson(set, { '7FE00010': { vr: 'OB', uri: 'here/pixels' } });
    expect(json).toEqual({
      '00280010': { vr: 'US', Value: [1] },
      '7FE00010': { vr: 'OB', BulkDataURI: 'here/pixels' }
    });
    expect(Object.keys(json).at(-1)).toBe('7FE00010');
  });
  it('holds no coded pixels', () => {
    const set = dataset({ PixelData: { syntax: '1.2', fragments: [Uint8Array.of(1)] } }, { PixelData: 'OB' });
    expect(() => dicomJson(set)).toThrow(RangeError);
  });
});
