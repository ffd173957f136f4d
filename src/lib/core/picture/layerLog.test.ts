import { describe, expect, it } from 'vitest';
import { seededRandom } from '../random';
import { type LayerStep, standingLayers, toBringBack, toTakeBack } from './layerLog';

/** A log in the making, as a server keeps it: taking back and bringing back add the steps that they come to. */
class Log {
  steps: LayerStep[] = [];
  private acts = 0;

  make(
    by: string,
    kind: string,
    body: unknown,
    act = `act ${++this.acts}`,
    item: string | null = null
  ): void {
    this.add({ act, by, kind, item, body, undoes: null });
  }
  takeBack(by: string): number {
    return this.undo(by, toTakeBack(this.steps, by));
  }
  bringBack(by: string): number {
    return this.undo(by, toBringBack(this.steps, by));
  }
  private undo(by: string, targets: LayerStep[]): number {
    const act = `act ${++this.acts}`;
    for (const { kind, item, seq } of targets) this.add({ act, by, kind, item, body: null, undoes: seq });
    return targets.length;
  }
  private add(step: Omit<LayerStep, 'seq' | 'version'>): void {
    this.steps.push({ seq: this.steps.length + 1, version: 1, ...step });
  }
  get now(): Record<string, unknown> {
    return Object.fromEntries(
      standingLayers(this.steps).map((step) => [`${step.kind}${step.item ?? ''}`, step.body])
    );
  }
}

describe('what people make of a picture', () => {
  it('stands as each layer’s newest state', () => {
    const log = new Log();
    log.make('ann', 'look', 1);
    log.make('ann', 'scale', 5);
    log.make('ann', 'look', 2);
    expect(log.now).toEqual({ look: 2, scale: 5 });
    log.make('ann', 'scale', null);
    expect(log.now).toEqual({ look: 2 });
  });

  it('is taken back act by act and brought back again', () => {
    const log = new Log();
    log.make('ann', 'look', 1);
    log.make('ann', 'length', 'a', 'drag', 'x');
    log.make('ann', 'length', 'b', 'drag', 'y');
    log.make('ann', 'look', 2);
    log.takeBack('ann');
    expect(log.now).toEqual({ look: 1, lengthx: 'a', lengthy: 'b' });
    expect(log.takeBack('ann')).toBe(2);
    expect(log.now).toEqual({ look: 1 });
    expect(log.bringBack('ann')).toBe(2);
    expect(log.now).toEqual({ look: 1, lengthx: 'a', lengthy: 'b' });
    log.bringBack('ann');
    expect(log.now.look).toBe(2);
    expect(log.bringBack('ann')).toBe(0);
  });

  it('can’t be brought back once something new was made', () => {
    const log = new Log();
    log.make('ann', 'look', 1);
    log.takeBack('ann');
    log.make('ann', 'scale', 3);
    expect(toBringBack(log.steps, 'ann')).toEqual([]);
    log.takeBack('ann');
    expect(log.now).toEqual({});
    expect(toBringBack(log.steps, 'ann').map((step) => step.kind)).toEqual(['scale']);
  });

  it('of others is never taken back, whoever came first', () => {
    const log = new Log();
    log.make('ann', 'look', 1);
    log.make('ben', 'look', 2);
    log.make('ben', 'length', 'b', undefined, 'x');
    log.takeBack('ann');
    expect(log.now).toEqual({ look: 2, lengthx: 'b' });
    expect(log.takeBack('ann')).toBe(0);
    log.takeBack('ben');
    log.takeBack('ben');
    expect(log.now).toEqual({});
    log.bringBack('ann');
    expect(log.now).toEqual({ look: 1 });
  });

  it('follows a plain undo stack for one person, whatever the other does on other layers', () => {
    for (let seed = 1; seed <= 120; seed++) {
      const random = seededRandom(seed).uniform;
      const log = new Log();
      // Ann's own history: states she can go back and forth in.
      let past: number[] = [];
      let future: number[] = [];
      let made = 0;
      for (let step = 0; step < 40; step++) {
        const what = random();
        if (what < 0.4) {
          log.make('ann', 'look', ++made);
          past = [...past, made];
          future = [];
        } else if (what < 0.65) {
          log.takeBack('ann');
          if (past.length > 0) future = [past.pop()!, ...future];
        } else if (what < 0.85) {
          log.bringBack('ann');
          if (future.length > 0) past = [...past, future.shift()!];
        } else if (random() < 0.5) log.make('ben', 'scale', step);
        else log.takeBack('ben');
        expect(log.now.look, `seed ${seed} step ${step}`).toBe(past.at(-1));
      }
    }
  });
});
