import { describe, expect, it } from 'vitest';
import type { PictureView } from '$core/picture/pictureView';
import { noLayers } from '$core/picture/pictureLayers';
import { windowLook } from '$core/raster/look/look';
import { bookOf } from '$core/tray/pattern';
import { fold } from '$core/tray/reduce';
import { fourBitewings } from '$core/tray/shipped/fourBitewings';
import type { TrayEvent } from '$core/tray/events/all';
import { type Pending, pictureWith, trayAfter, trayWith } from './pending';

const view = {
  pictureId: 'p',
  layers: noLayers,
  links: [],
  placed: false,
  seq: 4,
  canTakeBack: false,
  canBringBack: true
} as unknown as PictureView;
const at = (url: string, body: unknown, keptAs: number | null = null): Pending => ({ url, body, keptAs });
const look = (center: number) => ({ kind: 'look', item: null, body: windowLook({ center, width: 10 }) });
const act = (center: number, keptAs: number | null = null) =>
  at('/api/pictures/p/acts', { changes: [look(center)] }, keptAs);
const back = at('/api/pictures/p/take-back', {});
const again = at('/api/pictures/p/bring-back', {});

describe('a picture with changes on their way', () => {
  it('shows them, last one last, until its own state holds them', () => {
    expect(pictureWith(view, [act(1), act(2)]).layers.look).toEqual(windowLook({ center: 2, width: 10 }));
    expect(pictureWith(view, [act(1, 4)])).toBe(view);
    expect(pictureWith(view, [act(1, 5)]).layers.look).toEqual(windowLook({ center: 1, width: 10 }));
  });
  it('of another picture shows none of them', () => {
    expect(pictureWith({ ...view, pictureId: 'q' }, [act(1), back])).toEqual({ ...view, pictureId: 'q' });
  });
  it('takes back and brings back what is on its way, and leaves the rest to the server', () => {
    const taken = pictureWith(view, [act(1), act(2), back]);
    expect(taken.layers.look).toEqual(windowLook({ center: 1, width: 10 }));
    expect([taken.canTakeBack, taken.canBringBack]).toEqual([true, true]);
    expect(pictureWith(view, [act(1), act(2), back, again]).layers.look).toEqual(
      windowLook({ center: 2, width: 10 })
    );
    expect(pictureWith(view, [back]).layers.look).toBeNull();
    const anew = pictureWith(view, [act(1), back, act(3), again]);
    expect(anew.layers.look).toEqual(windowLook({ center: 3, width: 10 }));
    expect(anew.canBringBack).toBe(false);
  });
  it('shows the links that were asked for last', () => {
    const places = [{ kind: 'tooth', tooth: 11 }];
    const link = (each: object[]) => at('/api/links', { links: [{ pictureId: 'p', places: each }] });
    expect(pictureWith(view, [link([]), link(places)]).links).toEqual(places);
    expect(pictureWith({ ...view, links: places } as PictureView, [link([])]).links).toEqual([]);
  });
});

const { pattern, route } = fourBitewings;
const book = bookOf([pattern], [route]);
const laid: TrayEvent = { kind: 'tray-laid', pattern: pattern.ref, route: route.ref };
const [first, second] = route.order;
const added: TrayEvent = { kind: 'take-added', takeId: 't', slotId: first, exposed: true };
const held = { trayId: 'a', number: 1, seq: 2, tray: fold([laid, added], book) };
const wish = (body: object, keptAs: number | null = null) => at('/api/trays/a', body, keptAs);

describe('a tray with wishes on their way', () => {
  const confirm = { kind: 'keeper-confirmed', slotId: first, takeId: 't' };
  it('shows them as the server will take them, in the name of who asks', () => {
    expect(trayWith(held, [wish(confirm)], 'me').wells[first].confirmed).toEqual({ by: 'me', name: null });
    expect(trayWith(held, [wish(confirm, 2)], 'me').wells[first].confirmed).toBeNull();
    const moved = trayWith(held, [wish({ kind: 'take-moved', takeId: 't', slotId: second })], 'me');
    expect([moved.wells[first].keeper, moved.wells[second].keeper]).toEqual([null, 't']);
  });
  it('waits for the server where it can’t know: a pattern, a take from another tray, another tray’s wish', () => {
    expect(trayWith(held, [wish(laid)], 'me')).toBe(held.tray);
    expect(trayWith(held, [wish({ kind: 'take-moved', takeId: 'x', slotId: second })], 'me')).toBe(held.tray);
    expect(trayWith(held, [at('/api/trays/b', confirm)], 'me')).toBe(held.tray);
  });
});

describe('a tray that is told of events', () => {
  const next: TrayEvent = { kind: 'take-added', takeId: 'u', slotId: second, exposed: true };
  it('goes on when none is missing', () => {
    const after = trayAfter(held, 3, [next])!;
    expect([after.seq, after.tray.wells[second].keeper]).toEqual([3, 'u']);
  });
  it('stays as it is when they are old', () => expect(trayAfter(held, 2, [added])).toBe(held));
  it('has to be fetched when some are missing, none came along, or a pattern was laid', () => {
    expect(trayAfter(held, 5, [next])).toBeNull();
    expect(trayAfter(held, 3, null)).toBeNull();
    expect(trayAfter(held, 3, [laid])).toBeNull();
  });
});
