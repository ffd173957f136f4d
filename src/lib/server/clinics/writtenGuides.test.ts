import { randomUUID } from 'node:crypto';
import { expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { dropGuide, guideWish, keepGuide, writtenGuide, writtenGuides } from './writtenGuides';

const clinic = useClinic();
const wish = (name: string, of: { key: string; version: number } | null = null, measure = 'length') =>
  guideWish.parse({
    of,
    guide: {
      format: 'yonder-tray guide',
      formatVersion: 1,
      name,
      trade: 'bones',
      views: [
        {
          key: 'front',
          name: 'From the front',
          drawing: null,
          landmarks: ['a', 'b'].map((key, i) => ({ key, name: key, where: 'There', x: i, y: 0.5 })),
          lines: [['a', 'b']]
        }
      ],
      results: [
        {
          key: 'gap',
          name: 'Gap',
          measure,
          view: 'front',
          of: ['a', 'b'],
          source: { author: 'We', year: 2026, title: 'House rule' },
          normal: { low: null, high: 4 },
          mind: ''
        }
      ]
    }
  });

it('a clinic’s guides are kept in versions, once each, and told to nobody else', async () => {
  const me = clinic.caller();
  const key = randomUUID();
  const first = await keepGuide(me, key, wish('Gap'));
  expect(first.version).toBe(1);
  expect(await keepGuide(me, key, wish('Gap'))).toEqual(first);
  const second = await keepGuide(
    clinic.caller('administrator'),
    randomUUID(),
    wish('Cleft', first, 'height')
  );
  expect(second).toEqual({ key: first.key, version: 2 });
  const all = await writtenGuides(me);
  expect(all.map(({ version, written }) => [version, written.name, written.results[0].measure])).toEqual([
    [2, 'Cleft', 'height']
  ]);
  // What leaves as a file comes in again as the same.
  const { written } = await writtenGuide(me, first.key);
  expect(guideWish.parse({ of: null, guide: JSON.parse(JSON.stringify(written)) }).guide).toEqual(written);
  expect(await writtenGuides(clinic.stranger)).toEqual([]);
  await expect(writtenGuide(clinic.stranger, first.key)).rejects.toMatchObject({ status: 404 });
});

it('of two who change one guide at once the second is told, and nothing of the first is lost', async () => {
  const me = clinic.caller();
  const kept = await keepGuide(me, randomUUID(), wish('Two hands'));
  await keepGuide(me, randomUUID(), wish('Two hands, mine', kept));
  await expect(
    keepGuide(clinic.caller('administrator'), randomUUID(), wish('Two hands, theirs', kept))
  ).rejects.toMatchObject({ code: 'guide-changed', status: 409 });
  expect((await writtenGuide(me, kept.key)).written.name).toBe('Two hands, mine');
  await expect(keepGuide(me, randomUUID(), wish('Two hands, mine'))).rejects.toMatchObject({
    code: 'name-taken'
  });
});

it('only who may writes and drops them', async () => {
  const me = clinic.caller();
  const kept = await keepGuide(me, randomUUID(), wish('To be dropped'));
  for (const role of ['assistant', 'front-desk'] as const) {
    await expect(keepGuide(clinic.caller(role), randomUUID(), wish('Mine'))).rejects.toMatchObject({
      status: 403
    });
    await expect(dropGuide(clinic.caller(role), randomUUID(), kept.key)).rejects.toMatchObject({
      status: 403
    });
  }
  await expect(dropGuide(clinic.stranger, randomUUID(), kept.key)).rejects.toMatchObject({ status: 404 });
  await dropGuide(me, randomUUID(), kept.key);
  expect((await writtenGuides(me)).map(({ key }) => key)).not.toContain(kept.key);
});
