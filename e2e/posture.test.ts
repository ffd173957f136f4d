import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { password } from '../demo/clinic';
import { type FigureView, figurePhotograph } from '../src/lib/core/phantom/photo/figure';
import { Asking } from './harness/asking';
import { Browser } from './harness/browser';
import { RunningClinic } from './harness/running';
import { stage } from './harness/readings';

const views = ['front', 'right', 'left'] as const;
const still = { leftMm: 0, frontMm: 0, rollDeg: 0, pitchDeg: 0 };
const wish = {
  seed: 21,
  head: { ...still, rollDeg: 4, frontMm: 15 },
  chest: { ...still, rollDeg: -3, leftMm: 12 },
  pelvis: { ...still, rollDeg: 2 }
};
/** Held askew: the plumb line tells by how much. */
const photographs = Object.fromEntries(
  views.map((from) => [from, figurePhotograph(wish, from, 2.5)])
) as Record<FigureView, ReturnType<typeof figurePhotograph>>;

let clinic: RunningClinic;
let browser: Browser;
let visitId = '';
const pictures = { front: '', right: '', left: '' };

beforeAll(async () => {
  clinic = await RunningClinic.start({ sensor: false });
  browser = await Browser.open(clinic.origin);
  const asking = await Asking.as(clinic, 'mara', password);
  const [of] = await clinic.rows<{ appointment_id: string }>(
    `select a.appointment_id from appointment a join room r using (room_id)
     where r.name = 'Bones' and a.visit_id is null order by a.starts_at limit 1`
  );
  const opened = await asking.send('POST', '/api/visits', { appointmentId: of.appointment_id });
  visitId = String(opened.said.visitId);
  for (const view of views) pictures[view] = await asking.bring(visitId, view, photographs[view].raster);
  await browser.signIn('mara', password);
});
afterAll(async () => {
  await browser?.close();
  await clinic?.stop();
});

const violations = () => browser.violations();
async function figure(key: string): Promise<[value: number, plusMinus: number, unit: string]> {
  const text = await browser.text(`[data-testid=guide-result][data-key="${key}"] [data-testid=guide-value]`);
  const [, value, plusMinus, unit] = /(-?[\d.]+) ± ([\d.]+)\s*(\S+)/.exec(text)!;
  return [Number(value), Number(plusMinus), unit];
}
const rollOf = (part: string) => {
  const { known } = photographs.front;
  const [l, r] = [`${part} left`, `${part} right`].map((name) => known[name].patientPointMm);
  return (Math.atan2(l[2] - r[2], l[0] - r[0]) * 180) / Math.PI;
};

describe('posture from three photographs', () => {
  it('is found by itself, scaled by the plumb line, and turned upright by it', async () => {
    await browser.go(`/visits/${visitId}/measure?picture=${pictures.front}`);
    await browser.untilLive();
    await browser.find(`${stage}[data-picture="${pictures.front}"]`);
    await browser.press('2');
    await browser.run(`document.querySelector('[data-testid=guide-other]').closest('details').open = true`);
    await browser.click('[data-testid=guide-other][data-key=posture]');
    await browser.click('[data-testid=find-landmarks]');
    await browser.untilSays('[data-testid=found-all]', 'found');
    expect(await browser.all('[data-testid=found] circle[data-key]')).not.toHaveLength(0);
    expect(await violations()).toEqual([]);
    await browser.click('[data-testid=found-all]');
    for (const part of ['head', 'chest', 'pelvis']) {
      const [value, plusMinus] = await figure(`${part} roll`);
      expect(Math.abs(value - rollOf(part)), `${part}: ${value}`).toBeLessThan(Math.max(plusMinus, 0.4));
    }
    expect((await figure('chest left'))[2]).toBe('px');
    // A result lights up what it is made of, and nothing else: the two markers of the head and the line between them.
    await browser.run(
      `document.querySelector('[data-testid=guide-result][data-key="head roll"] [data-testid=guide-source]').focus()`
    );
    await browser.untilCount('[data-testid=lit] circle.stroke-coral', 2);
    await browser.untilCount('[data-testid=lit] line.stroke-coral', 1);
    await browser.run('document.activeElement.blur()');
    await browser.untilCount('[data-testid=lit] circle', 0);
    await browser.click('[data-testid=plumb-scale]');
    await browser.until('lengths are in mm', async () => (await figure('chest left'))[2].startsWith('mm'));
    expect(await browser.all('[data-testid=plumb-scale]')).toHaveLength(0);
    await browser.untilKept();
  });

  it('goes on with the two sides, each as the next view of the same doing', async () => {
    for (const view of ['right', 'left'] as const) {
      await browser.press(Key.PAGE_DOWN);
      await browser.find(`${stage}[data-picture="${pictures[view]}"]`);
      await browser.untilSays('[data-testid=guide-view]', view);
      await browser.click('[data-testid=find-landmarks]');
      await browser.click('[data-testid=found-all]');
      await browser.find(`[data-testid=guide-result][data-key="head pitch ${view}"]`);
      await browser.untilKept();
    }
    const rows = await clinic.rows<{ set: string; view: string }>(
      `select distinct body->>'set' as set, body->>'view' as view from picture_step where kind = 'guide'`
    );
    expect(rows.map(({ view }) => view).toSorted()).toEqual(['front', 'left', 'right']);
    expect(new Set(rows.map(({ set }) => set)).size).toBe(1);
  });

  it('takes what was found off again as one act', async () => {
    await browser.click('[data-testid=take-back]');
    await browser.until('nothing is placed there', async () => {
      const results = await browser.all('[data-testid=guide-result][data-key="head pitch left"]');
      return results.length === 0;
    });
    await browser.click('[data-testid=bring-back]');
    await browser.find('[data-testid=guide-result][data-key="head pitch left"]');
    await browser.untilKept();
  });
});

describe('what waits for a clinician', () => {
  it('is gone through from Today, one by one by a key; one is corrected, one left for later', async () => {
    await browser.signOut();
    await browser.signIn('orsin', password);
    await browser.click('a[href$="measure?waiting"]');
    await browser.untilSays('[data-testid=round-left]', '3 wait');
    await browser.untilSays('[data-testid=round-what]', 'Posture from three photographs: From the front');
    await browser.find(`${stage}[data-picture="${pictures.front}"]`);
    await browser.find('[data-testid=guide-result][data-key="head roll"]');
    expect(await violations()).toEqual([]);
    const before = (await figure('head roll'))[0];
    await browser.run(`document.querySelector('g[data-kind=guide] [data-index="0"]').focus()`);
    await browser.press(...Array<string>(8).fill(Key.ARROW_UP));
    await browser.until('the result follows', async () => (await figure('head roll'))[0] !== before);
    await browser.run('document.activeElement.blur()');
    await browser.press('3');
    await browser.untilSays('[data-testid=round-left]', '2 wait');
    await browser.find(`${stage}[data-picture="${pictures.right}"]`);
    await browser.press('4');
    await browser.find(`${stage}[data-picture="${pictures.left}"]`);
    await browser.untilSays('[data-testid=round-what]', 'left');
    await browser.press('3');
    await browser.untilSays('[data-testid=round]', 'left for later');
    await browser.press('3');
    await browser.untilKept();
    const rows = await clinic.rows<{ picture_id: string; name: string }>(
      `select s.picture_id, u.display_name as name from picture_step s join user_account u on u.user_id = s.made_by where s.kind = 'confirmed'`
    );
    expect(rows.map((row) => row.picture_id).toSorted()).toEqual([pictures.front, pictures.left].toSorted());
    expect(new Set(rows.map(({ name }) => name))).toEqual(new Set(['Orsin Vael']));
  });

  it('is begun again with what was left, until nothing waits; all of it stands on a page', async () => {
    await browser.click('[data-testid=round] .button:not(.quiet)');
    await browser.untilSays('[data-testid=round-left]', 'The last that waits');
    await browser.press('3');
    await browser.untilSays('[data-testid=round]', 'All of this visit is confirmed');
    await browser.untilKept();
    const shown = Object.fromEntries(
      await Promise.all(
        ['head roll', 'chest left', 'head pitch right'].map(async (key) => [
          key,
          await browser.text(`[data-testid=guide-result][data-key="${key}"] [data-testid=guide-value]`)
        ])
      )
    ) as Record<string, string>;
    await browser.click('[data-testid=round-results]');
    await browser.untilSays('[data-testid=results-guide]', 'Confirmed by Orsin Vael');
    await browser.untilLive();
    for (const [key, value] of Object.entries(shown))
      expect(await browser.text(`[data-testid=results-line][data-key="${key}"]`)).toContain(value);
    // The arm hangs over the hip in the side views, so that one is not drawn.
    expect(await browser.all('[data-testid=results-figure] svg')).toHaveLength(1);
    expect(await violations()).toEqual([]);
    const name = await browser.text('[data-testid=results-page-name]');
    await browser.click('[data-testid=names-initials]');
    await browser.until('no name is on it', async () => {
      const paper = await browser.text('[data-testid=results-page]');
      return !paper.includes(name) && !paper.includes(name.split(' ').at(-1)!);
    });
    // The same as a file, with no more of the name on it.
    const [link, type, size] = await browser.run<[string, string, number]>(
      `const { href } = document.querySelector('[data-testid=as-pdf]');
       return fetch(href).then(async (answer) => [href, answer.headers.get('content-type'), (await answer.arrayBuffer()).byteLength])`
    );
    expect(link).toMatch(/names=initials$/);
    expect(type).toBe('application/pdf');
    expect(size).toBeGreaterThan(20_000);
    await browser.go('/');
    await browser.untilLive();
    expect(await browser.all('a[href$="measure?waiting"]')).toHaveLength(0);
  });
});
