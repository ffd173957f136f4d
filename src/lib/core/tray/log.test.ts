import { describe, expect, it } from 'vitest';
import { seededRandom } from '../random';
import { readTrayEvent, storedTrayEvent } from './events/all';
import { type NumberedEvent, deadSeqs, liveEvents } from './log';
import { anyEvent, takesOf } from './randomTray.test-data';
import { fold, reduce } from './reduce';
import { shippedBook } from './shipped/shipped';
import { type Tray, emptyTray } from './tray';

const folded = (log: readonly NumberedEvent[]): Tray => fold(liveEvents(log), shippedBook);
const backOf = (log: readonly NumberedEvent[], seqs: number[]): NumberedEvent[] => [
  ...log,
  { seq: log.length + 1, event: { kind: 'taken-back', seqs } }
];

/** A log as a clinic fills it: only what changed something is in it. */
function anyLog(seed: number, steps: number): { log: NumberedEvent[]; made: string[] } {
  const random = seededRandom(seed);
  const made: string[] = [];
  const log: NumberedEvent[] = [];
  let tray = emptyTray;
  for (let step = 0; step < steps; step++) {
    const event = anyEvent(random, tray, made);
    const next = reduce(tray, event, shippedBook);
    if (next !== tray) log.push({ seq: log.length + 1, event });
    tray = next;
  }
  return { log, made };
}

describe('taking back on a tray', () => {
  it('leads exactly to where it stood before, and bringing back to where it stood after', () => {
    let tried = 0;
    for (let seed = 1; seed <= 400; seed++) {
      const { log } = anyLog(seed, 30);
      for (let length = 1; length <= log.length; length += 3) {
        const before = folded(log.slice(0, length - 1));
        const with_ = log.slice(0, length);
        const back = backOf(with_, [length]);
        expect(folded(back), `seed ${seed}, event ${length}`).toEqual(before);
        expect(folded(backOf(back, [length + 1]))).toEqual(folded(with_));
        tried += 1;
      }
    }
    expect(tried).toBeGreaterThan(2000);
  });

  it('loses no take that came in the meantime, whatever is taken back', () => {
    for (let seed = 1; seed <= 400; seed++) {
      const { log, made } = anyLog(1000 + seed, 40);
      const random = seededRandom(seed).uniform;
      let at = log;
      for (let i = 0; i < 6; i++) {
        const acts = at.filter(({ event }) => event.kind !== 'take-added');
        if (acts.length === 0) break;
        const { seq } = acts[Math.floor(random() * acts.length)];
        at = backOf(at, [seq]);
        const tray = folded(at);
        expect(takesOf(tray), `seed ${seed}`).toEqual([...made].sort());
        for (const well of Object.values(tray.wells)) {
          if (well.takes.length > 0) expect(well.takes).toContain(well.keeper);
          else expect(well.keeper).toBeNull();
        }
        const empty = tray.route.some((id) => tray.wells[id].takes.length === 0);
        if (empty) expect(tray.present, `seed ${seed}`).not.toBeNull();
      }
    }
  });

  it('folds the same from what is stored', () => {
    for (let seed = 1; seed <= 100; seed++) {
      const { log } = anyLog(5000 + seed, 40);
      const stored = JSON.parse(JSON.stringify(log.map(({ event }) => storedTrayEvent(event))));
      const read = log.map(({ seq }, i) => ({ seq, event: readTrayEvent(stored[i]) }));
      expect(folded(read)).toEqual(folded(log));
    }
  });

  it('of a taking-back makes its events count again, and of that not', () => {
    const { log } = anyLog(7, 12);
    const once = backOf(log, [2, 3]);
    const twice = backOf(once, [once.length]);
    const thrice = backOf(twice, [twice.length]);
    expect([...deadSeqs(once)].sort()).toEqual([2, 3]);
    expect([...deadSeqs(twice)]).toEqual([once.length]);
    expect([...deadSeqs(thrice)].filter((seq) => seq < 4).sort()).toEqual([2, 3]);
  });
});
