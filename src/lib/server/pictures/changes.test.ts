import { randomUUID } from 'node:crypto';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { type Place, toothPlaces } from '../../core/anatomy/place';
import { confirmable } from '../../core/picture/layers/confirmed/confirmed';
import { lookOf, orientationOf } from '../../core/picture/pictureView';
import { readingsOf } from '../../core/picture/readings';
import { windowLook } from '../../core/raster/look/look';
import type { Caller } from '../people/caller';
import { actWish, bringBack, keepAct, pictureSeen, takeBack } from './changes';
import { linkToPlaces, linkWish } from './links';
import { unconfirmedReadings } from './unconfirmed';

const clinic = useClinic();

async function newPicture() {
  const visitId = await clinic.newVisit();
  const bytes = await sharp({ create: { width: 20, height: 10, channels: 3, background: '#456' } })
    .png()
    .toBuffer();
  const pictureId = await clinic.bring(visitId, 'p.png', bytes);
  const now = (as: Caller = clinic.caller()) => pictureSeen(as, pictureId);
  return { pictureId, now };
}
const look = (center: number) => windowLook({ center, width: 50 });
const turned = { quarterTurns: 1, mirrored: false } as const;
const ends = (x: number) => [
  { x: 0, y: 0, uncertaintyPx: 1 },
  { x, y: 0, uncertaintyPx: 1 }
];
const change = (kind: string, body: unknown, item: string | null = null) => ({ kind, item, body });
const act = (...changes: object[]) => actWish.parse({ changes });
const keep = (pictureId: string, as: Caller, ...changes: object[]) =>
  keepAct(as, pictureId, randomUUID(), act(...changes));

describe('what people make of a picture', () => {
  it('is kept as it is made, taken back act by act to the first look, and brought back', async () => {
    const { pictureId, now } = await newPicture();
    const me = clinic.caller();
    const first = lookOf(await now());
    await keep(pictureId, me, change('look', look(10)));
    await keep(
      pictureId,
      me,
      change('orientation', turned),
      change('length', { ends: ends(5) }, 'reading-one')
    );
    await keep(pictureId, me, change('look', look(20)));
    expect(lookOf(await now())).toEqual(look(20));
    expect(orientationOf(await now())).toEqual(turned);
    await takeBack(me, pictureId, randomUUID());
    expect(lookOf(await now())).toEqual(look(10));
    await takeBack(me, pictureId, randomUUID());
    expect((await now()).layers).toMatchObject({ orientation: null, items: [] });
    await takeBack(me, pictureId, randomUUID());
    const bare = await now();
    expect([lookOf(bare), bare.canTakeBack, bare.canBringBack]).toEqual([first, false, true]);
    for (let i = 0; i < 3; i++) await bringBack(me, pictureId, randomUUID());
    const again = await now();
    expect([lookOf(again), again.layers.items.length, again.canBringBack]).toEqual([look(20), 1, false]);
  });

  it('sent twice with one key is kept once, and so is taking it back', async () => {
    const { pictureId, now } = await newPicture();
    const me = clinic.caller();
    await keep(pictureId, me, change('look', look(1)));
    const key = randomUUID();
    const seqs = await Promise.all(
      [1, 2, 3].map(() => keepAct(me, pictureId, key, act(change('look', look(30)))))
    );
    expect(new Set(seqs.map((done) => done.seq)).size).toBe(1);
    const undo = randomUUID();
    await Promise.all([1, 2, 3].map(() => takeBack(me, pictureId, undo)));
    expect(lookOf(await now())).toEqual(look(1));
  });

  it('of somebody else is never taken back', async () => {
    const { pictureId, now } = await newPicture();
    const [me, other] = [clinic.caller('clinician'), clinic.caller('assistant')];
    await keep(pictureId, me, change('look', look(10)));
    await keep(
      pictureId,
      other,
      change('look', look(20)),
      change('length', { ends: ends(5) }, 'reading-one')
    );
    await takeBack(me, pictureId, randomUUID());
    expect(lookOf(await now())).toEqual(look(20));
    expect((await now(me)).canTakeBack).toBe(false);
    expect((await now(other)).canTakeBack).toBe(true);
    const { seq } = await takeBack(me, pictureId, randomUUID());
    expect(seq).toBe((await now()).seq);
    expect((await now()).layers.items).toHaveLength(1);
  });

  it('keeps readings apart, each with its own history', async () => {
    const { pictureId, now } = await newPicture();
    const me = clinic.caller();
    await keep(pictureId, me, change('length', { ends: ends(5) }, 'reading-one'));
    await keep(pictureId, me, change('length', { ends: ends(7) }, 'reading-two'));
    await keep(pictureId, me, change('length', null, 'reading-one'));
    expect((await now()).layers.items.map((item) => item.id)).toEqual(['reading-two']);
    await takeBack(me, pictureId, randomUUID());
    expect((await now()).layers.items).toHaveLength(2);
  });

  it('is checked before it is kept, and what is kept is what was checked', () => {
    const wrong: object[] = [
      change('look', windowLook({ center: 1, width: 0 })),
      change('look', { steps: [{ kind: 'smooth', sigmaPx: 0 }] }),
      change('look', { steps: [], knot: -1 }),
      change('orientation', { quarterTurns: 5, mirrored: false }),
      change('length', { ends: [] }, 'reading-one'),
      change('length', { ends: ends(5) }),
      change('look', look(1), 'reading-one'),
      change('length', { ends: ends(5), planted: 1 }, 'reading-one'),
      change('dream', {})
    ];
    for (const each of wrong)
      expect(actWish.safeParse({ changes: [each] }).success, JSON.stringify(each)).toBe(false);
    expect(actWish.safeParse({ changes: [] }).success).toBe(false);
  });

  it('waits for a clinician, reading by reading and guide by guide, until each is confirmed as it is', async () => {
    const { pictureId, now } = await newPicture();
    const { visitId } = await now();
    const waiting = async () =>
      (await clinic.inside((tx) => unconfirmedReadings(tx, [visitId, randomUUID()]))).get(visitId) ?? 0;
    expect(await waiting()).toBe(0);
    const guide = {
      set: 'wrist-set',
      guide: 'distal-radius',
      version: 1,
      view: 'front',
      points: { styloid: { x: 3, y: 4, uncertaintyPx: 1 } }
    };
    const length = { ends: ends(5) };
    await keep(
      pictureId,
      clinic.caller('assistant'),
      change('length', length, 'reading-one'),
      change('guide', guide, 'wrist-set'),
      change('arrow', { points: ends(5) }, 'arrow-one')
    );
    expect(await waiting()).toBe(2);
    const clinician = clinic.caller('clinician');
    await keep(pictureId, clinician, change('confirmed', { as: confirmable(guide) }, 'wrist-set'));
    expect(await waiting()).toBe(1);
    await keep(pictureId, clinician, change('confirmed', { as: confirmable(length) }, 'reading-one'));
    expect(await waiting()).toBe(0);
    const moved = { ...guide, points: { styloid: { x: 3, y: 5, uncertaintyPx: 1 } } };
    await keep(pictureId, clinic.caller('assistant'), change('guide', moved, 'wrist-set'));
    expect(await waiting()).toBe(1);
  });

  it('of two people at one guide keeps what each placed, and the later place of what both moved', async () => {
    const { pictureId, now } = await newPicture();
    const [one, other] = [clinic.caller('assistant'), clinic.caller()];
    const at = (x: number) => ({ x, y: 4, uncertaintyPx: 1 });
    const body = (points: Record<string, ReturnType<typeof at>>) => ({
      set: 'two-at-once',
      guide: 'distal-radius',
      version: 1,
      view: 'front',
      points
    });
    const put = (caller: Caller, from: object | undefined, to: object) =>
      keep(pictureId, caller, { ...change('guide', to, 'two-at-once'), from });
    const points = async () =>
      ((await now()).layers.items.find(({ kind }) => kind === 'guide')!.body as ReturnType<typeof body>)
        .points;
    const first = body({ styloid: at(1), 'axis upper': at(2), 'axis lower': at(3) });
    await put(one, undefined, first);
    // Both saw the first: one moves a point and takes one off, the other moves another and adds one.
    await put(one, first, body({ styloid: at(10), 'axis upper': at(2) }));
    const theirs = body({ styloid: at(1), 'axis upper': at(20), 'axis lower': at(3), 'ulnar head': at(7) });
    await put(other, first, theirs);
    expect(await points()).toEqual({ styloid: at(10), 'axis upper': at(20), 'ulnar head': at(7) });
    // What the other goes on from is his own state; the same point moved by both is where the later put it.
    await put(other, theirs, body({ ...theirs.points, styloid: at(30) }));
    expect(await points()).toMatchObject({ styloid: at(30), 'axis upper': at(20) });
    expect(await points()).not.toHaveProperty('axis lower');
    // Another view is another thing: nothing is mixed.
    await put(one, first, { ...body({ 'volar rim': at(5) }), view: 'side' });
    expect(await points()).toEqual({ 'volar rim': at(5) });
  });

  it('is prepared by an assistant and confirmed by a clinician alone, and says who did which', async () => {
    const { pictureId, now } = await newPicture();
    const [assistant, clinician] = [clinic.caller('assistant'), clinic.caller()];
    const body = { ends: ends(7) };
    await keep(pictureId, assistant, change('length', body, 'reading-one'));
    const stamp = change('confirmed', { as: confirmable(body) }, 'reading-one');
    await expect(keep(pictureId, assistant, stamp)).rejects.toMatchObject({ code: 'not-allowed' });
    expect(readingsOf((await now()).layers, null)[0].confirmedBy).toBeNull();
    await keep(pictureId, clinician, stamp);
    const seen = await now();
    const [reading] = readingsOf(seen.layers, null);
    expect(seen.people[reading.item.by]).toBe(assistant.name);
    expect(seen.people[reading.confirmedBy!]).toBe(clinician.name);
  });

  it('may not be changed by the front desk or from another clinic', async () => {
    const { pictureId } = await newPicture();
    const wish = act(change('look', look(1)));
    await expect(keepAct(clinic.caller('front-desk'), pictureId, randomUUID(), wish)).rejects.toMatchObject({
      status: 403
    });
    await expect(keepAct(clinic.stranger, pictureId, randomUUID(), wish)).rejects.toMatchObject({
      code: 'not-found'
    });
    await expect(takeBack(clinic.stranger, pictureId, randomUUID())).rejects.toMatchObject({
      code: 'not-found'
    });
  });
});

describe('links', () => {
  const wrist: Place = { kind: 'bone', region: 'wrist', side: 'left', whose: 'person' };
  it('are exactly the places that were named, of any kind, each once', async () => {
    const { pictureId, now } = await newPicture();
    const link = (places: Place[]) =>
      linkToPlaces(
        clinic.caller('front-desk'),
        randomUUID(),
        linkWish.parse({ links: [{ pictureId, places }] })
      );
    await link(toothPlaces([16, 17, 16]));
    expect((await now()).links).toEqual(toothPlaces([16, 17]));
    await link([wrist]);
    expect((await now()).links).toEqual([wrist]);
    await link([]);
    expect((await now()).links).toEqual([]);
  });
  it('to places that are none, or from another clinic, are refused', async () => {
    const { pictureId } = await newPicture();
    const links = [{ pictureId, places: [{ kind: 'tooth', tooth: 99 }] }];
    expect(linkWish.safeParse({ links }).success).toBe(false);
    await expect(
      linkToPlaces(clinic.stranger, randomUUID(), { links: [{ pictureId, places: [wrist] }] })
    ).rejects.toMatchObject({ code: 'not-found' });
  });
});

describe('a scale', () => {
  it('has the shape of the picture’s own pixels, whatever a page made of it', async () => {
    const { pictureId, now } = await newPicture();
    const line = { from: 'line', ends: ends(20), knownMm: 10, knownUncertaintyMm: 0, aspect: 3 };
    await keep(pictureId, clinic.caller(), change('scale', line));
    expect((await now()).layers.scale).toEqual({ ...line, aspect: 1 });
    const more = { ...line, mmPerPixelX: 7 };
    expect(() => act(change('scale', more))).toThrow(/scale/);
  });
});
