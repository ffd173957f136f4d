import { describe, expect, it } from 'vitest';
import { dataset } from '../dicom/dataset';
import { identityTerms, termsInText, termsSeen, termsStillIn, withoutTerms } from './residual';

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

describe('a day of birth', () => {
  const days = identityTerms([], [], ['1970-03-02']);
  it.each(['1970-03-02', '02.03.1970', '3/2/1970', '19700302', 'born 2 Mar 1970', 'March 2, 1970', '2.3.70'])(
    'is found as %s',
    (text) => expect(termsInText(text, days)).not.toEqual([])
  );
  it.each(['1970', '02.03.1971', 'series 2370 of 9', '12.3.70'])('is not found in %s', (text) =>
    expect(termsInText(text, days)).toEqual([])
  );
});

describe('names that are looked for', () => {
  it('are found by their short and long forms too', () => {
    expect(termsInText('Liz, left hand', identityTerms(['Elizabeth Skerry'], []))).toContain('liz');
    expect(termsInText('Elizabeth', identityTerms(['Beth Skerry'], []))).toContain('elizabeth');
  });
  it('of one letter, or that are words, are found as whole words', () => {
    expect(termsInText('Long axis', identityTerms(['Rose Long'], []))).toEqual(['long']);
    expect(termsInText('rosette', identityTerms(['Rose'], []))).toEqual(['rose']);
    expect(termsInText('vitamin O, A and E', identityTerms(['O'], []))).toEqual(['o']);
  });
  it('are found in what was read from a picture though letters were read wrongly', () => {
    const named = identityTerms(['Dunmallow Corin'], ['QS-1004']);
    for (const read of ['DUNMALL0W', 'Dunrnallow', 'Dummallow', 'OUNMALLOW CORIN', 'QS-I0O4', 'Q5 1004'])
      expect(termsSeen(read, named), read).not.toEqual([]);
    for (const read of ['TIS 0.4 MI 1.1', 'Depth 80 mm', 'Gain 62', 'coming', '12:04:33', 'QS-2217'])
      expect(termsSeen(read, named), read).toEqual([]);
  });
});

describe('words without what points to a person', () => {
  const named = identityTerms(['Marrowby^Isolde'], ['QS-1004']);
  it.each([
    ['Isolde Marrowby, left wrist (QS-1004)', '…, left wrist (…)'],
    ['of Marrowby', 'of …'],
    ['DrMarrowby2024 says', '… says'],
    ['qs1004', '…'],
    ['nothing of hers', 'nothing of hers'],
    ['', '']
  ])('%s: %s', (before, after) => expect(withoutTerms(before, named)).toBe(after));
});
