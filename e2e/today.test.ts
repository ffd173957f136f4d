import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { password } from '../demo/clinic';
import { past } from '../demo/past';
import { dayAfter, dayOf } from '../src/lib/core/time/clinicTime';
import { Browser } from './harness/browser';
import { RunningClinic } from './harness/running';

let clinic: RunningClinic;
let browser: Browser;

beforeAll(async () => {
  clinic = await RunningClinic.start({ past: past.slice(0, 1), sensor: false });
  browser = await Browser.open(clinic.origin);
  await browser.signIn('orsin', password);
});
afterAll(async () => {
  await browser?.close();
  await clinic?.stop();
});

describe('the day', () => {
  const heading = () => browser.text('#day');
  const today = dayOf(new Date(), 'Atlantic/Reykjavik');
  const numberOf = (day: string) => String(Number(day.slice(8)));

  it('goes to the day after and before, and back to today', async () => {
    await browser.click('[data-testid=day-after]');
    const tomorrow = dayAfter(today, 1);
    await browser.until('it is tomorrow', async () => (await heading()).includes(` ${numberOf(tomorrow)} `));
    expect(await browser.run('return location.search')).toBe(`?day=${tomorrow}`);
    expect((await browser.all('[data-testid=appointment]')).length).toBeGreaterThan(0);
    await browser.click('[data-testid=day-before]');
    await browser.until('it is today', async () => (await heading()).startsWith('Today'));
    await browser.click('[data-testid=day-before]');
    await browser.click('[data-testid=to-today]');
    await browser.until('it is today', async () => (await heading()).startsWith('Today'));
  });

  it('is chosen in the calendar, by keys', async () => {
    await browser.click('[aria-label="Open the calendar"]');
    await browser.find('[data-today]');
    await browser.run(
      `document.querySelector('[role=application] [data-selected], [data-selected]').focus()`
    );
    await browser.press(Key.ARROW_DOWN, Key.ENTER);
    const nextWeek = dayAfter(today, 7);
    await browser.until(
      'it is next week',
      async () => (await browser.run('return location.search')) === `?day=${nextWeek}`
    );
    await browser.go('/');
    await browser.untilLive();
  });

  it('holds an appointment in the evening, and one that comes while the page is open', async () => {
    const rows = await clinic.rows<{ clinic_id: string; room_id: string; patient_id: string }>(
      `select r.clinic_id, r.room_id, p.patient_id from room r join patient p using (clinic_id) where r.name = 'Eyes' limit 1`
    );
    const before = (await browser.all('[data-testid=appointment]')).length;
    const [{ clinic_id, room_id, patient_id }] = rows;
    await clinic.rows(
      `insert into appointment (appointment_id, clinic_id, patient_id, room_id, starts_at, minutes, reason)
       values (gen_random_uuid(), '${clinic_id}', '${patient_id}', '${room_id}', '${today}T20:30:00Z', 45, 'After hours')`
    );
    await clinic.rows(`select pg_notify('yonder_news', '{"topic":"day","clinicId":"${clinic_id}"}')`);
    await browser.untilCount('[data-testid=appointment]', before + 1);
    const drawn = await browser.run<string>(
      `return document.querySelector('[aria-label="The day by room"]').innerText`
    );
    expect(drawn).toContain('20:00');
  });

  it('opens a visit from an appointment, once', async () => {
    await browser.click('[data-record=QS-1031]');
    await browser.until(
      'the visit is open',
      async () => (await browser.all('[data-testid=course]')).length > 0
    );
    const first = await browser.run('return location.pathname');
    await browser.go('/');
    await browser.untilLive();
    await browser.click('[data-record=QS-1031]');
    await browser.until(
      'it is the same visit',
      async () => (await browser.run('return location.pathname')) === first
    );
  });
});

it('no page asks again and again: while nothing happens nothing is fetched', async () => {
  const [{ visit_id }] = await clinic.rows<{ visit_id: string }>(
    `select visit_id from picture order by taken_at desc limit 1`
  );
  for (const where of [
    '/',
    `/visits/${visit_id}/acquire`,
    `/visits/${visit_id}/measure`,
    `/visits/${visit_id}/file`
  ]) {
    await browser.go(where);
    await browser.untilLive();
    await new Promise((done) => setTimeout(done, 1500));
    const fetched = () => browser.run<number>(`return performance.getEntriesByType('resource').length`);
    const before = await fetched();
    await new Promise((done) => setTimeout(done, 5000));
    expect(await fetched(), where).toBe(before);
  }
});

describe('the kit', () => {
  const violations = () => browser.violations();
  beforeAll(async () => {
    await browser.go('/kit');
    await browser.untilLive();
  });

  it('chooses from a list by keys, and nothing in it is out of reach', async () => {
    await browser.run('document.querySelector("[data-testid=kit-select]").focus()');
    await browser.press(Key.ENTER);
    await browser.untilCount('[role=option]', 3);
    expect(await violations()).toEqual([]);
    await browser.press(Key.ARROW_DOWN, Key.ENTER);
    await browser.until(
      'it is chosen',
      async () => (await browser.text('[data-testid=kit-select]')) === 'Ruler in the picture'
    );
  });
  it('finds while words are typed', async () => {
    await (await browser.find('[data-testid=kit-combobox]')).sendKeys('pin');
    await browser.untilCount('[role=option]', 1);
    expect(await violations()).toEqual([]);
    await browser.press(Key.ENTER);
    await browser.until(
      'it is found',
      async () => (await browser.text('[data-testid=kit-found]')) === 'found: pin'
    );
  });
  it('opens menu, popover and dialog, and Escape closes each', async () => {
    for (const [button, role] of [
      ['kit-menu', 'menu'],
      ['kit-popover', 'dialog'],
      ['kit-dialog', 'dialog']
    ]) {
      await browser.run(`document.querySelector('[data-testid=${button}]').focus()`);
      await browser.press(Key.ENTER);
      await browser.untilCount(`[role=${role}]`, 1);
      expect(await violations(), button).toEqual([]);
      await browser.press(Key.ESCAPE);
      await browser.untilCount(`[role=${role}]`, 0);
    }
  });
  it('changes values by keys', async () => {
    await browser.run('document.querySelector("[role=slider]").focus()');
    await browser.press(Key.ARROW_RIGHT);
    expect(await browser.text('[data-testid=kit-frame]')).toBe('frame 9 of 32');
    await browser.run('document.querySelector("[data-testid=kit-switch]").focus()');
    await browser.press(' ');
    expect(await (await browser.find('[data-testid=kit-switch]')).getAttribute('aria-checked')).toBe('false');
    await browser.run(`document.querySelector('[data-testid=kit-date] [data-segment=day]').focus()`);
    await browser.press(Key.ARROW_UP);
    await browser.until(
      'the day has changed',
      async () => (await browser.text('[data-testid=kit-day]')) === '2026-10-08'
    );
  });
});
