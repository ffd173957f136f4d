import { describe, expect, it } from 'vitest';
import { Unreadable } from '../../versioned';
import { fourBitewings } from '../shipped/fourBitewings';
import { type TrayEvent, readTrayEvent, storedTrayEvent, trayEventKinds } from './all';

const slotId = 'bw-right-molars';
const takeId = '018f0000-0000-7000-8000-0000000000aa';
const by = '018f0000-0000-7000-8000-0000000000bb';

/** One of each kind, and how every earlier version was stored, with what it is read as. */
const today: TrayEvent[] = [
  { kind: 'tray-laid', pattern: fourBitewings.pattern.ref, route: fourBitewings.route.ref },
  { kind: 'slot-chosen', slotId },
  { kind: 'retake-asked', slotId },
  { kind: 'anchored', slotId },
  { kind: 'anchor-lifted' },
  { kind: 'take-added', takeId, slotId: null, exposed: true },
  { kind: 'take-moved', takeId, slotId },
  { kind: 'take-dropped', takeId },
  { kind: 'take-handed-on', takeId, toTray: by },
  { kind: 'take-removed', takeId },
  { kind: 'take-returned', takeId, slotId },
  { kind: 'slots-swapped', slotId, otherSlotId: 'other' },
  { kind: 'keeper-chosen', slotId, takeId },
  { kind: 'keeper-confirmed', slotId, takeId, by, name: null },
  { kind: 'confirmation-withdrawn', slotId },
  { kind: 'slot-added', slot: fourBitewings.pattern.slots[0] },
  { kind: 'slot-dropped', slotId },
  { kind: 'route-laid', order: [slotId, 'other'] },
  { kind: 'tray-filled', moves: [{ takeId, slotId }] },
  { kind: 'device-settled', use: 'in the mouth', deviceId: by },
  { kind: 'taken-back', seqs: [3, 4] }
];
const earlier: { kind: string; version: number; body: unknown; read: TrayEvent }[] = [
  {
    kind: 'tray-laid',
    version: 1,
    body: { kind: 'tray-laid', pattern: { name: 'Four bitewings', slots: [], route: [] } },
    read: today[0]
  },
  {
    kind: 'keeper-confirmed',
    version: 1,
    body: { slotId, takeId, by: 'Orsin Vael' },
    read: { kind: 'keeper-confirmed', slotId, takeId, by: null, name: 'Orsin Vael' }
  }
];

describe('events of a tray', () => {
  it('are stored and read again the same, one of every kind', () => {
    expect(new Set(today.map((event) => event.kind)).size).toBe(trayEventKinds.length);
    for (const event of today) {
      const stored = JSON.parse(JSON.stringify(storedTrayEvent(event)));
      expect(readTrayEvent(stored)).toEqual(event);
    }
  });
  it('of every earlier version are read as what they were', () => {
    for (const kind of trayEventKinds)
      for (let version = 1; version < kind.version; version++)
        expect(
          earlier.filter((each) => each.kind === kind.kind && each.version === version),
          `${kind.kind} ${version}`
        ).toHaveLength(1);
    for (const { read, ...stored } of earlier) expect(readTrayEvent(stored)).toEqual(read);
  });
  it('carry no key that nobody asked for', () => {
    const extra = { ...today[1], planted: 'x' } as unknown as TrayEvent;
    expect(() => storedTrayEvent(extra)).toThrow();
    expect(() => readTrayEvent({ kind: 'slot-chosen', version: 1, body: { slotId, planted: 'x' } })).toThrow(
      Unreadable
    );
  });
  it('from a newer program, of an unknown kind, or damaged are never guessed at', () => {
    for (const stored of [
      { kind: 'slot-chosen', version: 9, body: { slotId } },
      { kind: 'dream', version: 1, body: {} },
      { kind: 'take-moved', version: 1, body: { takeId: 3 } },
      { kind: 'slot-chosen', version: 0, body: { slotId } }
    ])
      expect(() => readTrayEvent(stored), JSON.stringify(stored)).toThrow(Unreadable);
  });
});
