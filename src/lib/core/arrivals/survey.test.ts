import { describe, expect, it } from 'vitest';
import { bundleKeyOf } from './bundleKey';
import { type Says, nothingSaid } from './says';
import { addedTo, surveyOf } from './survey';

const head = (name: string, study: string, birthDate = ''): Says => ({
  ...nothingSaid,
  person: { ...nothingSaid.person, name, birthDate },
  study: { ...nothingSaid.study, uid: study, description: `of ${study}` }
});

describe('what the beginnings of a disc’s files tell', () => {
  it('is told study by study of each person, in the order they are met, under the key of their bundles', () => {
    const heads = [head('Marlow^Tess', '1'), head('Lund^Odo', '2', '1960-01-31'), head('MARLOW^TESS', '1')];
    expect(surveyOf(heads)).toMatchObject([
      { name: 'Tess Marlow', birthDate: '', description: 'of 1', files: 2, key: bundleKeyOf(heads[2]) },
      { name: 'Odo Lund', birthDate: '1960-01-31', description: 'of 2', files: 1 }
    ]);
    // One name and two birth dates are two people until somebody says otherwise.
    expect(surveyOf([head('A^B', '1', '1960-01-31'), head('A^B', '1', '1960-01-30')])).toHaveLength(2);
  });

  it('comes to the same, whichever pieces it came in', () => {
    const heads = Array.from({ length: 60 }, (_, i) => head(`P^${i % 7}`, String(i % 3)));
    const pieces = [heads.slice(0, 11), heads.slice(11, 12), heads.slice(12)];
    expect(pieces.map(surveyOf).reduce(addedTo, [])).toEqual(surveyOf(heads));
  });

  it('of more people than a disc holds tells the first, and counts what belongs to them', () => {
    const many = surveyOf(Array.from({ length: 2_500 }, (_, i) => head(`P^${i}`, '1')));
    expect(many).toHaveLength(2_000);
    const more = addedTo(many, surveyOf([head('P^0', '1'), head('P^2499', '1')]));
    expect(more).toHaveLength(2_000);
    expect(more[0].files).toBe(2);
  });
});
