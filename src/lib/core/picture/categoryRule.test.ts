import { describe, expect, it } from 'vitest';
import { type CategoryRule, categoryRuleSchema, fitsRule } from './categoryRule';

const picture = {
  kind: 'photograph',
  projection: null,
  device: 'Camera',
  words: 'Before treatment'
} as const;
const rule = (parts: Partial<CategoryRule>): CategoryRule =>
  categoryRuleSchema.parse({ kinds: ['photograph'], ...parts });

describe('a rule of a category', () => {
  it('files what fits every part of it, by any word and whatever its case', () => {
    expect(fitsRule(rule({ words: ['after', 'BEFORE'] }), picture)).toBe(true);
    expect(fitsRule(rule({ words: ['after'] }), picture)).toBe(false);
    expect(fitsRule(rule({ devices: ['Sensor 1'] }), picture)).toBe(false);
    expect(fitsRule(rule({ views: ['bitewing'] }), picture)).toBe(false);
    expect(fitsRule(rule({ kinds: ['radiograph'] }), picture)).toBe(false);
    expect(fitsRule(rule({ views: ['bitewing'] }), { ...picture, projection: 'bitewing' })).toBe(true);
  });

  it('that says nothing is none: it would file everything', () => {
    expect(categoryRuleSchema.safeParse({}).success).toBe(false);
  });
});
