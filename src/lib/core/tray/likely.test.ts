import { describe, expect, it } from 'vitest';
import { type Asked, likelihoodOf, namedByReason } from './likely';
import { shippedPatterns } from './shipped/shipped';
import type { Trade } from './pattern';

const person = { kind: 'person', species: null } as const;
const animal = (species: string) => ({ kind: 'animal', species }) as const;
const named = (trade: Trade, reason: string, patient: Asked['patient'] = person): string | null => {
  const patterns = shippedPatterns.map(({ pattern }) => pattern).filter((each) => each.trade === trade);
  return namedByReason(patterns, { reason, trade, patient })?.name ?? null;
};

describe('the pattern that a reason names', () => {
  it.each([
    ['teeth', 'Check-up, four bitewings', person, 'Four bitewings'],
    ['teeth', '2 bitewings', person, 'Two bitewings'],
    ['teeth', 'OPG before extraction', person, 'Panoramic'],
    ['teeth', 'Full mouth', person, 'Full mouth'],
    ['bones', 'Left wrist, after a fall', person, 'Left wrist'],
    ['bones', 'pelvis, fell on ice', person, 'Pelvis'],
    ['bones', 'Right knees', person, 'Right knee'],
    ['animals', 'Hips, before breeding', animal('dog, sheepdog'), 'Dog, hips'],
    ['animals', 'Lame, left fore fetlock', animal('pony'), 'Horse, left fore fetlock'],
    ['animals', 'Chest', animal('dog'), 'Dog, chest']
  ] as const)('in %s, “%s”', (trade, reason, patient, name) => {
    expect(named(trade, reason, patient)).toBe(name);
  });
  it.each([
    ['bones', 'Wrist, after a fall', person],
    ['bones', 'Follow-up', person],
    ['bones', 'Left side hurts', person],
    ['teeth', 'Pain on biting, lower left', person],
    ['animals', 'Hips', animal('cat')]
  ] as const)('is none in %s for “%s”', (trade, reason, patient) => {
    expect(named(trade, reason, patient)).toBeNull();
  });
  it('is near where only the side is missing, and other where it is the wrong one', () => {
    const asked = { trade: 'bones' as const, patient: person };
    expect(likelihoodOf('Left wrist', { ...asked, reason: 'Wrist' })).toBe('near');
    expect(likelihoodOf('Left wrist', { ...asked, reason: 'Right wrist' })).toBe('other');
    expect(likelihoodOf('Cat, full mouth', { ...asked, reason: 'teeth', patient: animal('dog') })).toBe(
      'foreign'
    );
  });
});
