import { describe, expect, it } from 'vitest';
import { type Step, lastStanding, layersOf } from './steps';

const step = (seq: number, layer: string, body: unknown, undoes: number | null = null): Step => ({
  seq,
  layer,
  body,
  undoes
});

describe('the steps of a picture', () => {
  const steps = [step(1, 'look', 'a'), step(2, 'look', 'b'), step(3, 'scale', 's'), step(4, 'look', 'c')];

  it('hold the newest state of each layer', () => {
    expect(layersOf(steps)).toEqual({ look: 'c', scale: 's' });
  });
  it('are taken back one after the other, down to the untouched original', () => {
    const log = [...steps];
    const states = [];
    for (let last = lastStanding(log); last; last = lastStanding(log)) {
      log.push(step(log.length + 1, last.layer, null, last.seq));
      states.push(layersOf(log));
    }
    expect(states).toEqual([{ look: 'b', scale: 's' }, { look: 'b' }, { look: 'a' }, {}]);
  });
  it('take back only what is asked for', () => {
    expect(lastStanding(steps, (layer) => layer === 'scale')?.seq).toBe(3);
  });
  it('take a layer off, and put it on again when that is taken back', () => {
    const removed = [...steps, step(5, 'scale', null)];
    expect(layersOf(removed)).toEqual({ look: 'c' });
    expect(layersOf([...removed, step(6, 'scale', null, 5)])).toEqual({ look: 'c', scale: 's' });
  });
});
