import { randomUUID } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { fourBitewings } from '../../core/tray/shipped/fourBitewings';
import { settingChanges, takeBackSetting } from '../clinics/settingChanges';
import { patternsFor, visitView } from '../visits/visits';
import { patternForOnce } from './once';
import {
  allPatterns,
  keepOwnRoute,
  keepPattern,
  patternWish,
  retirePattern,
  slotsOfTray
} from './ownPatterns';
import { trayWish, wishOfTray } from './wishes';

const clinic = useClinic();
const { slots } = fourBitewings.pattern;
const { order } = fourBitewings.route;
const keep = (asked: object, key: string = randomUUID()) =>
  keepPattern(
    clinic.caller('assistant'),
    key,
    patternWish.parse({ of: null, trade: 'teeth', name: 'Ours', slots, order, ...asked })
  );
const entry = async (id: string) =>
  (await allPatterns(clinic.caller('assistant'))).find(({ pattern }) => pattern.ref.id === id);
const offered = async () =>
  (await patternsFor(clinic.caller('assistant'), await clinic.newVisit())).map((each) => each.name);

describe('a pattern of the clinic’s own', () => {
  it('is kept, changed as a next version, and what was laid with the first stays what it is', async () => {
    const { pattern } = await keep({ name: 'Versions' });
    const visitId = await clinic.newVisit();
    const { trayId } = await clinic.trayOf(visitId);
    const [{ route }] = (await patternsFor(clinic.caller('assistant'), visitId)).filter(
      (each) => each.name === 'Versions'
    );
    await wishOfTray(
      clinic.caller('assistant'),
      trayId,
      randomUUID(),
      trayWish.parse({ kind: 'tray-laid', pattern, route })
    );
    const next = await keep({
      of: pattern.id,
      name: 'Versions',
      slots: slots.slice(0, 2),
      order: order.slice(0, 2)
    });
    expect(next.pattern).toEqual({ id: pattern.id, version: 2 });
    expect((await entry(pattern.id))!.pattern.slots).toHaveLength(2);
    const { trays } = await visitView(clinic.caller(), visitId);
    expect(trays[0].tray.route).toHaveLength(4);
  });

  it('has a name of its own and a route through all its slots', async () => {
    await keep({ name: 'Taken' });
    await expect(keep({ name: 'Taken' })).rejects.toMatchObject({ code: 'name-taken' });
    await expect(keep({ name: 'Misses', order: order.slice(1) })).rejects.toMatchObject({
      code: 'route-misses',
      sentence: 'The route misses “Right molars”.'
    });
    expect(
      patternWish.safeParse({ of: null, name: 'None', trade: 'teeth', slots: [], order: [] }).success
    ).toBe(false);
    await expect(keep({ of: fourBitewings.pattern.ref.id, name: 'Mine' })).rejects.toMatchObject({
      code: 'shipped-pattern'
    });
  });

  it('is offered no more once it is retired, and again when it is brought back', async () => {
    const { pattern } = await keep({ name: 'Going' });
    const retire = (retired: boolean) =>
      retirePattern(clinic.caller('assistant'), randomUUID(), pattern.id, { retired });
    expect(await offered()).toContain('Going');
    await retire(true);
    expect(await offered()).not.toContain('Going');
    expect((await entry(pattern.id))!.retired).toBe(true);
    await retire(false);
    expect(await offered()).toContain('Going');
  });
});

describe('a change of a pattern', () => {
  const admin = () => clinic.caller('administrator');
  const newest = async () => (await settingChanges(admin()))[0];
  const takeBackNewest = async () => takeBackSetting(admin(), randomUUID(), (await newest()).seq);

  it('is taken back with one press: the former version comes again as the next, with its routes', async () => {
    const { pattern } = await keep({ name: 'Four' });
    const back = [...order].reverse();
    await keepOwnRoute(clinic.caller('assistant'), randomUUID(), { pattern, order: back });
    const two = { slots: slots.slice(0, 2), order: order.slice(0, 2) };
    await keep({ of: pattern.id, name: 'Two', ...two });
    expect((await newest()).words).toBe('Patterns: Two, its name (Four → Two), its version (1 → 2)');
    await takeBackNewest();
    const four = (await entry(pattern.id))!;
    expect(four.pattern).toMatchObject({ name: 'Four', ref: { version: 3 }, slots });
    expect([four.usual.order, four.own!.order]).toEqual([order, back]);
    await takeBackNewest();
    expect((await entry(pattern.id))!.pattern).toMatchObject({ name: 'Two', ref: { version: 4 } });
  });

  it('that added it takes it off the list, and that it was retired puts it back', async () => {
    const { pattern } = await keep({ name: 'New here' });
    await takeBackNewest();
    expect(await offered()).not.toContain('New here');
    await takeBackNewest();
    expect(await offered()).toContain('New here');
    await retirePattern(clinic.caller('assistant'), randomUUID(), pattern.id, { retired: true });
    expect((await newest()).words).toBe('Patterns: New here, whether it is in use');
    await takeBackNewest();
    expect((await entry(pattern.id))!.retired).toBe(false);
  });

  it('is not taken back over a later one, nor where another pattern has its name by now', async () => {
    const { pattern } = await keep({ name: 'Once' });
    const first = await newest();
    await keep({ of: pattern.id, name: 'Once more' });
    await expect(takeBackSetting(admin(), randomUUID(), first.seq)).rejects.toMatchObject({
      code: 'setting-changed-since'
    });
    const renamed = await newest();
    await keep({ name: 'Once' });
    await expect(takeBackSetting(admin(), randomUUID(), renamed.seq)).rejects.toMatchObject({
      code: 'name-taken'
    });
    expect((await entry(pattern.id))!.pattern).toMatchObject({ name: 'Once more', ref: { version: 2 } });
  });

  it('that brings a retired one back needs its name to be free', async () => {
    const { pattern } = await keep({ name: 'Shared' });
    const retire = (retired: boolean) =>
      retirePattern(clinic.caller('assistant'), randomUUID(), pattern.id, { retired });
    await retire(true);
    await keep({ name: 'Shared' });
    await expect(retire(false)).rejects.toMatchObject({ code: 'name-taken' });
  });
});

describe('one’s own route', () => {
  it('is the one that a pattern is laid along for its owner, and for nobody else', async () => {
    const { pattern } = await keep({ name: 'Routes' });
    const back = [...order].reverse();
    await keepOwnRoute(clinic.caller('assistant'), randomUUID(), { pattern, order: back });
    expect((await entry(pattern.id))!.own!.order).toEqual(back);
    const routeOf = async (role: 'assistant' | 'clinician') =>
      (await patternsFor(clinic.caller(role), await clinic.newVisit())).find(
        (each) => each.name === 'Routes'
      )!.route;
    expect((await routeOf('assistant')).id).not.toBe((await routeOf('clinician')).id);
    await keepOwnRoute(clinic.caller('assistant'), randomUUID(), { pattern, order: null });
    expect((await entry(pattern.id))!.own).toBeNull();
  });
});

describe('a pattern for this once', () => {
  it('belongs to its visit, and can be made one of the clinic’s', async () => {
    const visitId = await clinic.newVisit();
    const { trayId } = await clinic.trayOf(visitId);
    const caller = clinic.caller('assistant');
    const refs = await patternForOnce(caller, visitId, randomUUID(), { slots: slots.slice(0, 3) });
    await wishOfTray(caller, trayId, randomUUID(), trayWish.parse({ kind: 'tray-laid', ...refs }));
    expect(await offered()).not.toContain('For this once');
    const made = await slotsOfTray(caller, trayId);
    expect(made.slots.map(({ id }) => id)).toEqual(order.slice(0, 3));
    const { pattern } = await keep({ name: 'Made of it', slots: made.slots, order: order.slice(0, 3) });
    expect((await entry(pattern.id))!.pattern.slots).toHaveLength(3);
  });
});
