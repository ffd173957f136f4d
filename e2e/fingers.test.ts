import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { password } from '../demo/clinic';
import { past } from '../demo/past';
import { Asking } from './harness/asking';
import { Browser } from './harness/browser';
import { atTheChair } from './harness/chair';
import { RunningClinic } from './harness/running';

/** What is done at the chair with gloves on: every press here is a finger's, on a screen of 1024x768. */
let clinic: RunningClinic;
let browser: Browser;
const { lampIs, begin } = atTheChair(() => browser);

beforeAll(async () => {
  clinic = await RunningClinic.start({ past: past.slice(0, 2), devices: ['Plates 1', 'Sensor 1'] });
  browser = await Browser.open(clinic.origin);
  await browser.resize(1024, 768);
  await browser.giveFingers();
  await browser.signIn('mara', password);
});
afterAll(async () => {
  await browser?.close();
  await clinic?.stop();
});

const tap = (css: string) => browser.tap(css);
const type = async (css: string, words: string) => {
  await tap(css);
  await browser.press(words);
};
const says = (css: string, words: string) => browser.untilSays(css, words);

describe('by fingers alone', () => {
  it('a pattern is laid: teeth touched, a well moved, the thread pulled through', async () => {
    await browser.go('/patterns/new?trade=teeth');
    await browser.untilLive();
    for (const tooth of [16, 11, 26]) {
      await tap(`[data-place="tooth:${tooth}"]`);
      await tap('[data-testid=another-slot]');
    }
    await type('[data-testid=pattern-name]', 'By finger');
    const well = (i: number) => browser.middleOf('[data-testid=pattern-well]', i);
    const [x, y] = await well(1);
    await browser.fingers([
      [
        [x, y],
        [x + 10, y + 40],
        [x + 20, y + 90]
      ]
    ]);
    const moved = await well(1);
    expect(moved[1] - y).toBeGreaterThan(60);
    await tap('[data-testid=hand-thread]');
    await tap('[data-testid=pull-out]');
    await browser.fingers([[await well(2), await well(1), await well(0)]]);
    await tap('[data-testid=keep-pattern]');
    await browser.find('[data-testid=pattern-entry]');
    const [{ slots, slot_order: order }] = await clinic.rows<{
      slots: { id: string }[];
      slot_order: string[];
    }>(
      `select p.slots, r.slot_order from pattern p join route r on r.pattern_id = p.pattern_id where p.name = 'By finger'`
    );
    expect(order).toEqual(slots.map(({ id }) => id).toReversed());
  });

  it('takes of a slot are compared: drawn apart by two fingers, all of them; the other is kept', async () => {
    const [take] = await clinic.rows<{ visit_id: string; picture_id: string }>(
      `select p.visit_id, p.picture_id from picture p join standing s using (picture_id)
       where s.keeper and (select count(*) from standing o where o.tray_id = s.tray_id and o.slot_id = s.slot_id) > 1 limit 1`
    );
    await browser.go(`/visits/${take.visit_id}/check?picture=${take.picture_id}`);
    await browser.untilLive();
    await tap('[data-testid=together]');
    const stages = '[data-testid=stage][data-picture]:not([data-picture=""])';
    await browser.until('several are drawn', async () => (await browser.all(stages)).length > 1);
    const zooms = () =>
      browser.run<number[]>(
        `return [...document.querySelectorAll('[data-testid=stage]')].map((stage) => Number(stage.dataset.zoom))`
      );
    await browser.until('they are drawn', async () => (await zooms()).every((zoom) => zoom > 0));
    const before = await zooms();
    const [x, y] = await browser.middleOf('[data-testid=stage]', 0);
    await browser.fingers([
      [
        [x - 20, y],
        [x - 35, y],
        [x - 50, y]
      ],
      [
        [x + 20, y],
        [x + 35, y],
        [x + 50, y]
      ]
    ]);
    await browser.until('all are nearer', async () =>
      (await zooms()).every((zoom, i) => zoom > 1.5 * before[i])
    );
  });

  it('what a picture is, is put right: its time and its name', async () => {
    const [take] = await clinic.rows<{ visit_id: string; picture_id: string; at: string }>(
      `select p.visit_id, p.picture_id, to_char(p.taken_at at time zone c.time_zone, 'HH24:MI') as at
       from picture p join standing s using (picture_id) join clinic c on c.clinic_id = p.clinic_id
       where s.slot_id is not null order by p.taken_at, p.number limit 1`
    );
    await browser.go(`/visits/${take.visit_id}/check?picture=${take.picture_id}`);
    await browser.untilLive();
    await tap('[data-testid=open-put-right]');
    const shown = await browser.text('[data-testid=taken-time]');
    expect(shown.replace(/\s/g, '')).toBe(take.at);
    await type('[data-testid=taken-time] [data-segment=hour]', '07');
    await type('[data-testid=taken-time] [data-segment=minute]', '05');
    await type('[data-testid=view-name]', 'Molars, again');
    await tap('[data-testid=put-right]');
    await says('main', 'Molars, again');
    await browser.untilKept();
    const [after] = await clinic.rows<{ at: string }>(
      `select to_char(p.taken_at at time zone c.time_zone, 'HH24:MI') as at from picture p
       join clinic c on c.clinic_id = p.clinic_id where p.picture_id = '${take.picture_id}'`
    );
    expect(after.at).toBe('07:05');
  });

  it('a batch of plates is read, and the camera opened, used and closed', async () => {
    await begin('QS-1004');
    await tap('[data-testid=device-choice]');
    await tap('[role=option][data-label="Plates 1"]');
    await tap('[data-testid=fineness]');
    await tap('[role=option][data-value=quick]');
    await tap('[data-testid=wide-button]');
    await lampIs('ready');
    await tap('[data-testid=demo-plate]');
    await says('[data-testid=station-acquire]', '3 empty');
    await tap('[data-testid=wide-button]');
    await lampIs('resting');
    await tap('[data-testid=camera-button]');
    await tap('[data-testid=take-still]');
    await browser.untilCount('[data-testid=still]', 1);
    await tap('[data-testid=drop-still]');
    await browser.untilCount('[data-testid=still]', 0);
    await tap('[data-testid=close-camera]');
    await browser.untilCount('[data-testid=camera]', 0);
  });

  it('retakes are counted another way, and a new patient who may be here already is not entered twice', async () => {
    await browser.go('/retakes');
    await browser.untilLive();
    await tap('[data-testid=by-slot]');
    await browser.untilCount('[data-testid=by-slot][data-state=on]', 1);
    await tap('[data-testid=months-3]');
    await browser.until('three months', async () =>
      (await browser.driver.getCurrentUrl()).endsWith('months=3')
    );
    await browser.go('/patients/new');
    await browser.untilLive();
    await type('[data-testid=given]', 'Fenna');
    await type('[data-testid=family]', 'Oystergard');
    await type('[data-testid=born]', '8.8.1995');
    await says('[data-testid=double]', 'Fenna Oystergaard');
    await tap('[data-testid=double] a');
    await says('[data-testid=band-name]', 'Fenna Oystergaard');
  });

  it('parts of a report are put in another order by their grips, and stay so', async () => {
    const [{ visit_id }] = await clinic.rows<{ visit_id: string }>(
      'select visit_id from picture group by visit_id order by count(*) desc, visit_id limit 1'
    );
    const order = () =>
      browser.run<string[]>(
        `return [...document.querySelectorAll('[data-testid=report-part]')].map((each) => each.dataset.key)`
      );
    const report = `/visits/${visit_id}/report`;
    await browser.go(report);
    await browser.untilLive();
    await browser.find('[data-testid=part-grip]');
    const before = await order();
    expect(before.length).toBeGreaterThan(1);
    const [from, to] = [
      await browser.middleOf('[data-testid=part-grip]', 0),
      await browser.middleOf('[data-testid=report-part]', 1)
    ];
    const parts = () => browser.text('[data-testid=report-parts]');
    await browser.fingers([[from, [from[0] + 3, (from[1] + to[1]) / 2], to]], async () => {
      // Somebody writes a word of the story meanwhile, and the list is drawn anew under the finger.
      const were = await parts();
      const orsin = await Asking.as(clinic, 'orsin', password);
      await orsin.send('POST', `/api/visits/${visit_id}/story`, { part: 'plan', body: 'Seen again in May' });
      await browser.until('the word is there', async () => (await parts()) !== were);
    });
    const after = [before[1], before[0], ...before.slice(2)];
    await browser.until('they have changed places', async () => (await order()).join() === after.join());
    await browser.until('it is kept', async () => {
      await browser.go(report);
      await browser.untilLive();
      return (await order()).join() === after.join();
    });
  });
});
