import { describe, expect, it } from 'vitest';
import { dataset } from '../dicom/dataset';
import { identityTerms, termsStillIn } from './residual';

const terms = identityTerms(['Marrowby^Isolde', 'Ódile Wu', 'Li^O'], ['QS-1004', '77']);
const found = (text: string) => termsStillIn(dataset({ StationName: text }), terms).map(({ term }) => term);

describe('what is still of a person in a text', () => {
  it('is found in every writing of a name or a number', () => {
    for (const text of [
      'Dr.Marrowby',
      'MARROWBY_ISOLDE',
      'marrowby',
      'Marrowbys',
      'file of Marrowby (copy)',
      'DrMarrowby',
      'marrowby2024',
      'Márrowby'
    ])
      expect(found(text), text).toContain('marrowby');
    for (const text of ['(QS-1004)', 'qs1004', 'QS 1004', 'QS_1004.dcm', 'noQS-1004x'])
      expect(found(text), text).toContain('qs 1004');
    expect(found('ODILE')).toEqual(['odile']);
  });
  it('of one to three letters is found as a whole word, and not inside others', () => {
    expect(found('for Li')).toEqual(['li']);
    expect(found('LI^O')).toEqual(['li', 'o']);
    expect(found('Wu')).toEqual(['wu']);
    expect(found('room 77')).toEqual(['77']);
    for (const text of ['light', 'oil', 'Wuthering', '1770', 'isolated', 'marrow'])
      expect(found(text), text).toEqual([]);
  });
  it('is found in items too, and not where only the standard’s words stand', () => {
    const nested = dataset({
      AnatomicRegionSequence: [{ CodeValue: '1', CodeMeaning: 'Li', OperatorsName: 'Wu' }]
    });
    expect(termsStillIn(nested, terms)).toEqual([{ term: 'wu', where: 'Operators Name' }]);
  });
  it('of nothing is nothing', () => {
    expect(identityTerms(['', '^^', ' . '], ['', '--'])).toEqual([]);
    expect(termsStillIn(dataset({ StationName: 'x' }), [])).toEqual([]);
  });
});
