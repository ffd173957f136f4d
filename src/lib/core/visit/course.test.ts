import { describe, expect, it } from 'vitest';
import type { TrayEvent } from '../tray/events/all';
import { fold, reduce } from '../tray/reduce';
import { fourBitewings } from '../tray/shipped/fourBitewings';
import { shippedBook } from '../tray/shipped/shipped';
import { type Tray, emptyTray } from '../tray/tray';
import { type CoursePicture, course } from './course';

const picture = (pictureId: string, changes: Partial<CoursePicture> = {}): CoursePicture => ({
  pictureId,
  hasScale: true,
  linked: false,
  readings: 0,
  unconfirmed: 0,
  delivered: false,
  onItsWay: false,
  advised: false,
  ...changes
});

const laid = () =>
  fold(
    [{ kind: 'tray-laid', pattern: fourBitewings.pattern.ref, route: fourBitewings.route.ref }],
    shippedBook
  );
const after = (tray: Tray, event: TrayEvent) => reduce(tray, event, shippedBook);

function filled(): Tray {
  let tray = laid();
  for (const takeId of ['a', 'b', 'c', 'd']) {
    tray = after(tray, { kind: 'take-added', takeId, slotId: tray.present, exposed: true });
  }
  return tray;
}

const words = (tray: Tray, pictures: CoursePicture[]) =>
  Object.fromEntries(course([tray], pictures).states.map((state) => [state.station, state.words]));

describe('the course of a visit', () => {
  it('has readings to confirm until each is confirmed, and asks for none', () => {
    const measure = (changes: Partial<CoursePicture>) =>
      course([], [picture('a', changes), picture('b')]).states.find(({ station }) => station === 'measure');
    expect(measure({})).toMatchObject({ left: 0, required: false, words: 'no readings' });
    expect(measure({ readings: 3, unconfirmed: 2 })).toMatchObject({ left: 2, words: '2 to confirm' });
    expect(measure({ readings: 3 })).toMatchObject({ left: 0, required: true, words: '3 readings' });
  });
  it('counts what is left at each station', () => {
    const tray = laid();
    expect(words(tray, [])).toMatchObject({ acquire: '4 empty', check: 'nothing yet', file: 'nothing yet' });
    const full = filled();
    const pictures = ['a', 'b', 'c', 'd'].map((id) => picture(id, { hasScale: id !== 'a' }));
    expect(words(full, pictures)).toMatchObject({
      acquire: 'all taken',
      check: '4 to confirm',
      scale: '1 unscaled',
      file: '4 not sent'
    });
  });

  it('is clear only when everything is confirmed, scaled, linked and delivered', () => {
    let tray = filled();
    for (const well of Object.values(tray.wells)) {
      tray = after(tray, {
        kind: 'keeper-confirmed',
        slotId: well.slot.id,
        takeId: well.keeper!,
        by: null,
        name: 'x'
      });
    }
    const done = ['a', 'b', 'c', 'd'].map((id) =>
      picture(id, { linked: true, delivered: true, onItsWay: true })
    );
    expect(course([tray], done).clear).toBe(true);
    for (const change of [{ linked: false }, { hasScale: false }, { delivered: false }]) {
      expect(course([tray], [{ ...done[0], ...change }, ...done.slice(1)]).clear).toBe(false);
    }
  });

  it('asks nothing of a take that a retake has superseded', () => {
    let tray = filled();
    tray = after(tray, { kind: 'retake-asked', slotId: 'bw-right-molars' });
    tray = after(tray, { kind: 'take-added', takeId: 'e', slotId: 'bw-right-molars', exposed: true });
    const pictures = ['b', 'c', 'd', 'e'].map((id) => picture(id, { delivered: true }));
    expect(words(tray, [...pictures, picture('a')]).file).toBe('4 not linked');
  });

  it('tells how many of what stands the computer doubts, and waits for none of them', () => {
    let tray = filled();
    const pictures = ['a', 'b', 'c', 'd'].map((id) => picture(id, { advised: id === 'a' || id === 'b' }));
    expect(words(tray, pictures).acquire).toBe('all taken, 2 doubtful');
    tray = after(tray, { kind: 'retake-asked', slotId: 'bw-right-molars' });
    tray = after(tray, { kind: 'take-added', takeId: 'e', slotId: 'bw-right-molars', exposed: true });
    expect(words(tray, [...pictures, picture('e')]).acquire).toBe('all taken, 1 doubtful');
    expect(course([tray], pictures).states[0].left).toBe(0);
  });

  it('is never clear while nothing was taken', () => {
    expect(course([emptyTray], []).clear).toBe(false);
    expect(course([], []).clear).toBe(false);
  });

  it('adds up what is left on several trays', () => {
    const pictures = ['a', 'b', 'c', 'd'].map((id) => picture(id));
    const { states, clear } = course([filled(), laid()], pictures);
    expect(states.slice(0, 2).map((state) => state.words)).toEqual(['4 empty', '4 to confirm']);
    expect(clear).toBe(false);
  });
});
