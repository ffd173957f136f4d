import { beforeEach, describe, expect, it, vi } from 'vitest';
import { noLayers } from '$core/picture/pictureLayers';
import type { PictureView } from '$core/picture/pictureView';
import { windowLook } from '$core/raster/look/look';
import { upright } from '$core/raster/orientation';
import type { TrayEvent } from '$core/tray/events/all';
import { fold, reduce } from '$core/tray/reduce';
import { fourBitewings } from '$core/tray/shipped/fourBitewings';
import { shippedBook } from '$core/tray/shipped/shipped';
import type { DeviceView, TrayView, VisitView } from '$core/visit/visitView';
import type { Heard } from '../net/news';
import type { PendingChange } from '../net/outbox.svelte';

const told = vi.hoisted(() => ({ hear: (_: unknown): void => {}, taken: (_: unknown): void => {} }));
vi.mock('../net/news', () => ({
  onNewsSinceFetched: (follower: (heard: unknown) => void) => {
    told.hear = follower;
    return () => (told.hear = () => {});
  }
}));
vi.mock('../net/outbox.svelte', () => ({
  outbox: {
    changes: [],
    follow: (follower: (change: unknown) => void) => {
      told.taken = follower;
      return () => {};
    },
    put: vi.fn(),
    forget: vi.fn()
  }
}));
const { outbox } = await import('../net/outbox.svelte');
const { VisitStore } = await import('./visitStore.svelte');

const [first, second] = fourBitewings.route.order;
const laid: TrayEvent = {
  kind: 'tray-laid',
  pattern: fourBitewings.pattern.ref,
  route: fourBitewings.route.ref
};
const added = (takeId: string, slotId: string | null): TrayEvent => ({
  kind: 'take-added',
  takeId,
  slotId,
  exposed: true
});
const picture = (pictureId: string, number: number, more: Partial<PictureView> = {}): PictureView =>
  ({
    pictureId,
    number,
    visitId: 'v',
    seq: 1,
    source: 'device',
    trayId: 't',
    slot: null,
    links: [],
    placed: false,
    layers: noLayers,
    firstLook: windowLook({ center: 5, width: 3 }),
    firstOrientation: upright,
    ...more
  }) as PictureView;
const device = (name: string, more: Partial<DeviceView> = {}): DeviceView => ({
  deviceId: name,
  name,
  kind: 'panel',
  lamp: 'resting',
  lampWords: '',
  finenesses: [],
  fineness: null,
  armed: null,
  ...more
});
const tray = (seq: number, ...events: TrayEvent[]): TrayView => ({
  trayId: 't',
  number: 1,
  seq,
  tray: fold([laid, ...events], shippedBook)
});
const visit = (more: Partial<VisitView> = {}): VisitView =>
  ({
    visitId: 'v',
    roomId: 'r',
    trays: [tray(2, added('p1', first))],
    pictures: [picture('p1', 1)],
    devices: [device('Panel 2')],
    deliveries: [],
    people: { ann: 'Ann' },
    ...more
  }) as VisitView;

/** Answers by address; what is asked is noted, and an answer may be held back. */
let asked: string[];
let answers: Record<string, unknown>;
let gate: Promise<void>;
beforeEach(() => {
  asked = [];
  answers = {};
  gate = Promise.resolve();
  outbox.changes = [];
  vi.clearAllMocks();
  vi.stubGlobal('fetch', async (url: string) => {
    asked.push(url);
    const answer = answers[url];
    await gate;
    return answer === undefined ? new Response('{}', { status: 503 }) : Response.json(answer);
  });
});
const settled = async () => {
  for (let i = 0; i < 12; i++) await new Promise((go) => setImmediate(go));
};
function following(view = visit()) {
  const store = new VisitStore(view, 'ann');
  store.follow();
  const hear = (heard: Heard) => told.hear(heard);
  return { store, hear };
}
const trayNews = (seq: number, events: TrayEvent[] | null): Heard => ({
  topic: 'tray',
  visitId: 'v',
  trayId: 't',
  seq,
  events
});

describe('a visit that hears news', () => {
  it('takes a lamp in by itself, of its own room alone', async () => {
    const { store, hear } = following();
    hear({ topic: 'lamp', roomId: 'r', device: device('Panel 2', { lamp: 'ready' }) });
    hear({ topic: 'lamp', roomId: 'r', device: device('Panel 1') });
    hear({ topic: 'lamp', roomId: 'elsewhere', device: device('Panel 9') });
    expect(store.devices.map(({ name, lamp }) => [name, lamp])).toEqual([
      ['Panel 1', 'resting'],
      ['Panel 2', 'ready']
    ]);
    await settled();
    expect(asked).toEqual([]);
  });

  it('goes on with a tray’s events, and fetches the trays where some are missing', async () => {
    const { store, hear } = following();
    hear(trayNews(3, [added('p2', second)]));
    expect(store.trays[0].tray.wells[second].keeper).toBe('p2');
    hear(trayNews(3, [added('p2', second)]));
    await settled();
    expect(asked).toEqual([]);
    answers['/api/visits/v/trays'] = { trays: [tray(9, added('p1', first), added('p9', second))] };
    hear(trayNews(9, [added('p9', second)]));
    await settled();
    expect(asked).toEqual(['/api/visits/v/trays']);
    expect(store.trays[0].tray.wells[second].keeper).toBe('p9');
  });

  it('while it fetches hears of more, and fetches once more, not once for each', async () => {
    const { hear } = following();
    let open = () => {};
    gate = new Promise((go) => (open = go));
    answers['/api/visits/v/trays'] = { trays: [tray(9)] };
    for (let seq = 5; seq < 15; seq++) hear(trayNews(seq, null));
    await settled();
    expect(asked).toHaveLength(1);
    open();
    await settled();
    expect(asked).toHaveLength(2);
  });

  it('takes in a new picture that comes along, and fetches one that was changed', async () => {
    const { store, hear } = following();
    hear({ topic: 'picture', visitId: 'v', pictureId: 'p0', view: picture('p0', 0) });
    expect(store.pictures.map(({ pictureId }) => pictureId)).toEqual(['p0', 'p1']);
    expect(asked).toEqual([]);
    const look = windowLook({ center: 9, width: 1 });
    answers['/api/pictures/p1'] = picture('p1', 1, { seq: 4, layers: { ...noLayers, look } });
    hear({ topic: 'picture', visitId: 'v', pictureId: 'p1', view: null });
    await settled();
    expect(store.picture('p1')!.layers.look).toEqual(look);
    answers['/api/pictures/p1'] = picture('p1', 1, { seq: 3 });
    hear({ topic: 'picture', visitId: 'v', pictureId: 'p1', view: null });
    await settled();
    expect(store.picture('p1')!.seq).toBe(4);
  });

  it('cares for no other visit’s news', async () => {
    const { store, hear } = following();
    const before = store.trays;
    hear({ ...(trayNews(3, [added('x', second)]) as object), visitId: 'w' } as Heard);
    hear({ topic: 'picture', visitId: 'w', pictureId: 'q', view: picture('q', 5) });
    hear({ topic: 'deliveries', visitId: 'w' });
    hear({ topic: 'day' });
    await settled();
    expect(asked).toEqual([]);
    expect(store.trays).toEqual(before);
    expect(store.pictures).toHaveLength(1);
  });

  it('that may have missed some looks at all of it, and keeps what it heard later than that was made', async () => {
    const { store, hear } = following();
    let open = () => {};
    gate = new Promise((go) => (open = go));
    answers['/api/visits/v'] = visit({ deliveries: [{ deliveryId: 'd' }] as VisitView['deliveries'] });
    hear({ topic: 'all' });
    hear(trayNews(3, [added('p2', second)]));
    hear({ topic: 'picture', visitId: 'v', pictureId: 'p2', view: picture('p2', 2) });
    open();
    await settled();
    expect(store.deliveries).toHaveLength(1);
    expect(store.trays[0].tray.wells[second].keeper).toBe('p2');
    expect(store.pictures.map(({ pictureId }) => pictureId)).toEqual(['p1', 'p2']);
  });

  it('asks who somebody is that it does not know, and nobody that it knows', async () => {
    const { hear } = following();
    const confirmed = (by: string): TrayEvent => ({
      kind: 'keeper-confirmed',
      slotId: first,
      takeId: 'p1',
      by,
      name: null
    });
    hear(trayNews(3, [confirmed('ann')]));
    await settled();
    expect(asked).toEqual([]);
    hear(trayNews(4, [confirmed('bert')]));
    await settled();
    expect(asked).toEqual(['/api/visits/v']);
  });

  it('of which nothing can be fetched stays as it was, and the next news mend it', async () => {
    const { store, hear } = following();
    hear({ topic: 'deliveries', visitId: 'v' });
    await settled();
    expect(store.deliveries).toEqual([]);
    answers['/api/visits/v/deliveries'] = { deliveries: [{ deliveryId: 'd' }] };
    hear({ topic: 'deliveries', visitId: 'v' });
    await settled();
    expect(store.deliveries).toHaveLength(1);
  });
});

describe('what was done on the page itself', () => {
  const waiting = (url: string, body: unknown) =>
    ({ url, body, keptAs: null, refused: null, key: 'k' }) as unknown as PendingChange;

  it('is shown while it waits: a take lies where it was moved, turned as its slot says', () => {
    const { store } = following();
    outbox.changes = [waiting('/api/trays/t', { kind: 'take-moved', takeId: 'p1', slotId: second })];
    const slot = fourBitewings.pattern.slots.find(({ id }) => id === second)!;
    expect(store.picture('p1')!.slot).toEqual(slot);
    expect(store.picture('p1')!.firstOrientation).toEqual(slot.orientation);
    expect(store.standing.map(({ pictureId }) => pictureId)).toEqual(['p1']);
    outbox.changes = [{ ...outbox.changes[0], refused: { sentence: 'No.', next: 'Do not.' } }];
    expect(store.picture('p1')!.slot?.id).toBe(first);
  });

  it('goes by lanes: what belongs together one after the other', () => {
    const { store } = following();
    void store.wish('t', { kind: 'anchor-lifted' }, 'Anchor lifted');
    void store.act('p1', [], 'Look');
    void store.takeBack('p1');
    void store.bringBack('p2');
    const lanes = vi.mocked(outbox.put).mock.calls.map(([{ lane }]) => lane);
    expect(lanes).toEqual(['visit v', 'picture p1', 'picture p1', 'picture p2']);
  });

  it('stays taken back when the page hears of the act first, and of the taking back later', async () => {
    const { store, hear } = following();
    const seen = () => {
      const { layers, canBringBack } = store.picture('p1')!;
      return [layers.look, canBringBack];
    };
    const acted = [{ kind: 'look', item: null, body: windowLook({ center: 9, width: 3 }) }];
    const kept = (url: string, body: unknown, keptAs: number | null) => ({
      ...waiting(url, body),
      keptAs
    });
    const act = kept('/api/pictures/p1/acts', { changes: acted }, 2);
    const newly = async (seq: number, more: Partial<PictureView>) => {
      answers['/api/pictures/p1'] = picture('p1', 1, { seq, ...more });
      hear({ topic: 'picture', visitId: 'v', pictureId: 'p1', view: null } as unknown as Heard);
      await settled();
    };
    const look = acted[0].body;
    outbox.changes = [act];
    expect(seen()[0]).toEqual(look);
    outbox.changes = [act, kept('/api/pictures/p1/take-back', {}, null)];
    expect(seen()).toEqual([null, true]);
    await newly(2, { layers: { ...noLayers, look } as PictureView['layers'], canTakeBack: true });
    expect(seen()).toEqual([null, true]);
    // The server has it, and the page has not heard so.
    outbox.changes = [act, kept('/api/pictures/p1/take-back', {}, 3)];
    expect(seen()).toEqual([null, true]);
    await newly(3, { canBringBack: true });
    expect(seen()).toEqual([null, true]);
    // What somebody else does from then on is seen as ever.
    await newly(4, { layers: { ...noLayers, look } as PictureView['layers'] });
    expect(seen()[0]).toEqual(look);
  });

  it('of links is let go once the server’s own state is here', async () => {
    following();
    answers['/api/pictures/p1'] = picture('p1', 1, { seq: 2 });
    told.taken(waiting('/api/links', { links: [{ pictureId: 'p1', places: [] }] }));
    expect(outbox.forget).not.toHaveBeenCalled();
    await settled();
    expect(asked).toEqual(['/api/pictures/p1']);
    expect(outbox.forget).toHaveBeenCalledWith('k');
  });
});

it('a tray told of event after event is the tray that the server folds', () => {
  const { store, hear } = following();
  const events = [
    added('p2', second),
    { kind: 'slots-swapped', slotId: first, otherSlotId: second } as TrayEvent
  ];
  let myTray = store.trays[0].tray;
  for (const [i, event] of events.entries()) {
    hear(trayNews(3 + i, [event]));
    myTray = reduce(myTray, event, shippedBook);
  }
  expect(store.trays[0].tray).toEqual(myTray);
});
