import { describe, expect, it } from 'vitest';
import {
  type Look,
  activeSteps,
  dropped,
  inverted,
  isInverted,
  moved,
  onOwnValues,
  pulledTo,
  switched,
  windowLook,
  windowOf,
  withRange,
  withWindow
} from './look';
import { lookSchema } from './lookSchema';
import { presetLook, presets, starter, withAdded } from './starters';

const values = { center: 2000, width: 1000 };
const kinds = (look: Look) => look.steps.map(({ kind }) => kind);

describe('a look that is added to', () => {
  it('takes each adjustment at its end, and each can be stored as it begins', () => {
    let look = windowLook(values);
    const all = ['unsharp', 'gamma', 'local contrast', 'equalise', 'median', 'smooth', 'keep edges'] as const;
    for (const kind of all) {
      look = withAdded(look, kind);
      expect(lookSchema.safeParse({ steps: [starter(kind)] }).success, kind).toBe(true);
    }
    expect(kinds(look)).toEqual(['window', ...all]);
  });
  it('means the same before and behind its window', () => {
    const look = withAdded(windowLook(values), 'local contrast');
    const before = moved(look, 1, -1);
    expect(before.steps[0]).toMatchObject({ low: 1500, high: 2500 });
    expect([onOwnValues(before, 0), onOwnValues(look, 1)]).toEqual([true, false]);
    expect(moved(before, 0, 1)).toEqual(look);
    const edges = moved(withAdded(windowLook(values), 'keep edges'), 0, 1);
    expect(edges.steps[0]).toMatchObject({ range: 40 });
  });
  it('goes back by its knot and forward again, and what is added meanwhile counts', () => {
    const look = withAdded(withAdded(windowLook(values), 'gamma'), 'equalise');
    const back = pulledTo(look, 1);
    expect(activeSteps(back).map(({ kind }) => kind)).toEqual(['window']);
    expect(pulledTo(back, 3)).toEqual(look);
    const more = withAdded(back, 'median');
    expect(activeSteps(more).map(({ kind }) => kind)).toEqual(['window', 'median']);
    expect(kinds(pulledTo(more, 9))).toEqual(['window', 'median', 'gamma', 'equalise']);
    expect(activeSteps(dropped(more, 1)).map(({ kind }) => kind)).toEqual(['window']);
    expect(windowOf(withWindow(pulledTo(look, 0), { center: 7, width: 3 }))).toMatchObject({ center: 7 });
    expect([isInverted(inverted(back)), kinds(inverted(back))]).toEqual([
      true,
      ['window', 'invert', 'gamma', 'equalise']
    ]);
  });
  it('has steps switched off and on, and put one before the other', () => {
    const look = withAdded(windowLook(values), 'gamma');
    expect(activeSteps(switched(look, 1))).toHaveLength(1);
    expect(switched(switched(look, 1), 1)).toEqual(look);
    expect(kinds(moved(look, 0, 1))).toEqual(['gamma', 'window']);
    expect(moved(look, 0, -1)).toEqual(look);
  });
  it('shows all a picture can hold where nothing says what is black and white', () => {
    const shape = { bitsStored: 12, offset: -1000 };
    const stored = withRange(pulledTo(windowLook(values, true), 0), shape);
    expect(windowOf(stored)).toMatchObject({ center: 1048, width: 4096 });
    expect(isInverted(stored)).toBe(false);
    const look = windowLook(values);
    expect(withRange(look, shape)).toBe(look);
  });
});

describe('presets', () => {
  it('lie in the picture’s own values, dense parts alike whether these are high or low', () => {
    const metal = presets.bones.find(({ id }) => id === 'metal')!;
    const high = windowOf(presetLook(metal, windowLook(values)))!;
    const low = presetLook(metal, windowLook(values, true));
    // From 0.7 to 1.2 of 1500 to 2500.
    expect(high).toMatchObject({ center: 2450, width: 500 });
    expect(windowOf(low)).toMatchObject({ center: 1550, width: 500 });
    expect(isInverted(low)).toBe(true);
  });
  it('can all be stored', () => {
    for (const preset of [...presets.teeth, ...presets.bones])
      expect(lookSchema.safeParse(presetLook(preset, windowLook(values))).success, preset.id).toBe(true);
  });
});
