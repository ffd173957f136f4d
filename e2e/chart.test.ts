import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Key } from 'selenium-webdriver';
import { password } from '../demo/clinic';
import sharp from 'sharp';
import { Asking } from './harness/asking';
import { Browser } from './harness/browser';
import { RunningClinic } from './harness/running';

let clinic: RunningClinic;
let browser: Browser;
let patientId: string;

const cards = '[data-testid=chart-picture]';
const shown = () =>
  browser.run<string[]>(
    `return [...document.querySelectorAll('[data-testid=chart-picture]')].map((a) => a.dataset.picture)`
  );
const inChart = async () =>
  Number(
    (
      await clinic.rows<{ count: number }>(
        `select count(*)::int as count from picture where patient_id = $1 and away is null`,
        [patientId]
      )
    )[0].count
  );
const found = () => browser.text('[data-testid=found]');
async function open(query = ''): Promise<void> {
  await browser.go(`/patients/${patientId}${query}`);
  await browser.untilLive();
  await browser.find(cards);
}
const focusOn = (pictureId: string) =>
  browser.run(`document.querySelector('[data-picture="${pictureId}"]').focus()`);
const focused = () => browser.run<string | undefined>('return document.activeElement.dataset.picture');
async function pickFirst(count: number): Promise<string[]> {
  const ids = (await shown()).slice(0, count);
  for (const id of ids) {
    await focusOn(id);
    await browser.press(' ');
  }
  await browser.untilSays('[data-testid=picked-count]', count === 1 ? '1 picture' : `${count} pictures`);
  return ids;
}

/** Each with the tooth that it is linked to, and how many days ago it was taken. */
const pictures: readonly { name: string; tooth: number | null; days: number; visit: number }[] = [
  { name: 'crown', tooth: 36, days: 1, visit: 0 },
  { name: 'crown from above', tooth: 36, days: 1, visit: 0 },
  { name: 'root filling', tooth: 45, days: 1, visit: 0 },
  { name: 'lip', tooth: null, days: 1, visit: 0 },
  { name: 'root before', tooth: 45, days: 200, visit: 1 },
  { name: 'gum', tooth: 11, days: 200, visit: 1 },
  { name: 'first look', tooth: 36, days: 700, visit: 2 },
  { name: 'first smile', tooth: null, days: 700, visit: 2 }
];
const png = (grey: number) =>
  sharp({ create: { width: 60, height: 40, channels: 3, background: { r: grey, g: 80, b: 60 } } })
    .png()
    .toBuffer();

beforeAll(async () => {
  clinic = await RunningClinic.start({ sensor: false });
  browser = await Browser.open(clinic.origin);
  await browser.resize(1280, 800);
  const asking = await Asking.as(clinic, 'orsin', password);
  const [{ patient_id, room_id }] = await clinic.rows<{ patient_id: string; room_id: string }>(
    `select p.patient_id, r.room_id from patient p join room r using (clinic_id)
     where p.record_number = 'QS-1060' and r.name = 'Teeth'`
  );
  patientId = patient_id;
  const visits: string[] = [];
  for (const { name, tooth, days, visit } of pictures) {
    visits[visit] ??= String(
      (await asking.send('POST', '/api/visits', { patientId, roomId: room_id })).said.visitId
    );
    const bytes = new Uint8Array(await png(40 + 20 * pictures.findIndex((each) => each.name === name)));
    const url = `/api/visits/${visits[visit]}/files?name=${encodeURIComponent(name)}.png`;
    const pictureId = String((await asking.send('POST', url, bytes)).said.pictureId);
    if (tooth)
      await asking.send('POST', '/api/links', {
        links: [{ pictureId, places: [{ kind: 'tooth', tooth }] }]
      });
    await clinic.rows(
      'update picture set taken_at = taken_at - make_interval(days => $2) where picture_id = $1',
      [pictureId, days]
    );
    // A second visit on one day in one room is the same one: each lies on its own day.
    await clinic.rows('update visit set opened_at = now() - make_interval(days => $2) where visit_id = $1', [
      visits[visit],
      days
    ]);
  }
  await browser.signIn('orsin', password);
});
afterAll(async () => {
  await browser?.close();
  await clinic?.stop();
});

describe('deleting, and taking off a place', () => {
  it('deletes everywhere with a reason, and one press brings it back to where it lay', async () => {
    await open();
    const all = await inChart();
    const [gone] = await pickFirst(1);
    await browser.click('[data-testid=delete-picked]');
    await (await browser.find('[data-testid=away-reason]')).sendKeys('Taken twice');
    expect(await browser.violations()).toEqual([]);
    await browser.click('[data-testid=away-go]');
    await browser.until('it is gone', async () => !(await shown()).includes(gone));
    expect(await inChart()).toBe(all - 1);
    expect(await found()).toBe(String(all - 1));
    await browser.click('[data-testid=open-bin]');
    await browser.untilSays('[data-testid=bin]', 'by Orsin Vael: Taken twice');
    expect(await browser.text('[data-testid=bin]')).toContain('Removed for good on');
    expect(await browser.violations()).toEqual([]);
    await browser.click('[data-testid=bring-back]');
    await browser.until('it is back', async () => (await inChart()) === all);
    await browser.press(Key.ESCAPE);
    await browser.until('it is shown', async () => (await shown()).includes(gone));
  });

  it('takes off one place and no other: the picture stays, and it can be undone', async () => {
    await open('?places=tooth%3A36');
    const all = await inChart();
    const here = (await shown()).length;
    await pickFirst(1);
    expect(await browser.text('[data-testid=unlink-picked]')).toContain('Take off tooth 36');
    await browser.click('[data-testid=unlink-picked]');
    await browser.untilCount(cards, here - 1);
    expect(await inChart()).toBe(all);
    await browser.run(
      `[...document.querySelectorAll('[data-sonner-toast] button')].find((each) => each.innerText === 'Undo').click()`
    );
    await browser.untilCount(cards, here);
  });

  it('links what is picked at once to what is chosen, several teeth in one stroke', async () => {
    await open('?beside=no%20place');
    const [id] = await pickFirst(1);
    const at = async (tooth: number) => browser.middleOf(`[data-place="tooth:${tooth}"]`);
    const [from, over, to] = [await at(18), await at(17), await at(16)];
    const pointer = browser.driver.actions();
    const point = ([x, y]: [number, number]) => ({ x: Math.round(x), y: Math.round(y), duration: 80 });
    await pointer.move(point(from)).press().move(point(over)).move(point(to)).release().perform();
    await browser.until('three are chosen', async () =>
      (await browser.text('[data-testid=link-picked]')).includes('18 17 16')
    );
    await browser.click('[data-testid=link-picked]');
    await browser.until('it is linked to them', async () => {
      const rows = await clinic.rows<{ place_key: string }>(
        'select place_key from picture_place where picture_id = $1 order by 1',
        [id]
      );
      return rows.map((row) => row.place_key).join() === 'tooth:16,tooth:17,tooth:18';
    });
    await browser.click('[data-testid=pick-lower]');
    await browser.until('all of the lower jaw is chosen too', async () =>
      (await browser.run<string>('return location.search')).includes('tooth%3A41')
    );
  });

  it('takes one back to Arrivals, from where it is given to somebody else; both charts tell it', async () => {
    await open();
    const all = await inChart();
    await pickFirst(1);
    await browser.click('[data-testid=to-arrivals]');
    await (await browser.find('[data-testid=away-reason]')).sendKeys('Of somebody else');
    await browser.click('[data-testid=away-go]');
    await browser.untilSays('[data-testid=on-desk]', 'by Orsin Vael: Of somebody else');
    expect(await inChart()).toBe(all - 1);
    const rows = await clinic.rows<{ reason: string }>(
      `select reason from arrival where source = 'chart' and given_to is null`
    );
    expect(rows[0].reason).toContain('Of somebody else');
    await browser.go('/arrivals');
    await browser.untilSays('body', '(QS-1060)');
  });
});

describe('categories', () => {
  it('take what is dragged on them once that is confirmed, and limit the chart to it', async () => {
    await open();
    const [first, second] = await pickFirst(2);
    const card = await browser.find(`[data-picture="${first}"]`);
    const target = await browser.find('[data-testid=category]');
    await browser.driver.actions().dragAndDrop(card, target).perform();
    await browser.untilSays('[role=dialog]', 'File 2 pictures under Before treatment?');
    await browser.click('[data-testid=file-go]');
    await browser.untilSays('[data-testid=category]', '2');
    await browser.click('[data-testid=category]');
    await browser.untilCount(cards, 2);
    expect((await shown()).sort()).toEqual([first, second].sort());
  });

  it('are made with a rule that files what is there already', async () => {
    await open();
    await browser.click('[data-testid=categories]');
    await (await browser.find('[data-testid=category-name]')).sendKeys('Root work');
    await (await browser.find('[data-testid=category-words]')).sendKeys('root');
    expect(await browser.violations()).toEqual([]);
    await browser.click('[data-testid=keep-category]');
    await browser.until(
      'it stands there',
      async () => (await browser.all('[data-testid=category]')).length > 2
    );
  });
});

describe('the list of pictures', () => {
  it('is sorted by its heads, limited by kind, time and words, and says how many there are', async () => {
    await open();
    await browser.click('[data-testid=form-list]');
    await browser.click('[data-testid=sort-name]');
    const names = () =>
      browser.run<string[]>(
        `return [...document.querySelectorAll('[data-testid=chart-picture]')].map((a) => a.innerText.toLowerCase())`
      );
    await browser.until('sorted by name', async () =>
      (await browser.run<string>('return location.search')).includes('sort=name')
    );
    await browser.until('by name', async () => (await names())[0] === 'crown from above.png');
    await browser.click('[data-testid=sort-date]');
    await browser.until('oldest first', async () => (await names())[0] === 'first look.png');
    await browser.click('[data-testid=sort-date]');
    await browser.until(
      'newest first again',
      async () => !(await browser.run<string>('return location.search'))
    );
    await (await browser.find('[data-testid=search-words]')).sendKeys('nothing has this name');
    await browser.untilCount(cards, 0);
    expect(await found()).toMatch(/^0 of \d+$/);
    expect(await browser.violations()).toEqual([]);
    await browser.click('[data-testid=form-grid]');
  });

  it('is limited by the strip of time, by keys', async () => {
    await open();
    const all = await found();
    await browser.run(`document.querySelector('[data-testid=time-strip] [role=slider]').focus()`);
    for (let i = 0; i < 3; i++) await browser.press(Key.ARROW_RIGHT);
    await browser.until('the oldest are left out', async () => {
      const now = await found();
      return now !== all && now.includes(' of ');
    });
    expect(await browser.text('[data-testid=time-words]')).toContain(' to ');
  });
});

it('a chart is worked by keys alone: place, picture, several picked, compared, come back to', async () => {
  await open();
  expect(await browser.violations()).toEqual([]);
  const [first, second] = await shown();
  // From the top of the page Tab comes to the pictures, and arrows go on in them.
  await browser.run('document.querySelector("[data-testid=search-words]").focus()');
  for (let i = 0; i < 40 && (await focused()) !== first; i++) await browser.press(Key.TAB);
  expect(await focused()).toBe(first);
  await browser.press(' ', Key.ARROW_RIGHT);
  await browser.until('the second has the focus', async () => (await focused()) === second);
  expect(await browser.text('[data-testid=picked-count]')).toBe('1 picture');
  await browser.press(' ');
  await browser.untilSays('[data-testid=picked-count]', '2 pictures');
  await browser.press('c');
  await browser.until('both lie side by side', async () => {
    const on = await browser.run<string[]>(
      `return [...document.querySelectorAll('[data-testid=stage]')].map((stage) => stage.dataset.picture)`
    );
    return on.includes(first) && on.includes(second);
  });
  await browser.driver.navigate().back();
  await browser.untilLive();
  await browser.find(cards);
  await focusOn(first);
  await browser.press(Key.END);
  await browser.until('the last is come to', async () => {
    const at = await focused();
    return at !== undefined && at !== first;
  });
  await browser.press(Key.HOME);
  await browser.until('the first again', async () => (await focused()) === first);
  await browser.press(Key.ENTER);
  await browser.until('it is opened', async () =>
    (await browser.run<string>('return location.search')).includes(first)
  );
});

it('pictures of all charts are found by place and kind, each with whose it is', async () => {
  await browser.go('/pictures?places=tooth%3A45');
  await browser.untilLive();
  await browser.untilCount(cards, 2);
  expect(await browser.text('[data-testid=pictures]')).toContain('QS-1060');
  await focusOn((await shown())[0]);
  await browser.press(' ');
  await browser.untilSays('[data-testid=picked-count]', '1 picture');
  await browser.click('[data-testid=send-picked]');
  await browser.click('[data-testid=send-parcel]');
  await browser.untilSays('[data-testid=send-picked-dialog]', 'Send 1 picture');
  await browser.press(Key.ESCAPE);
  await browser.click('[data-testid=pick-none]');
  expect(await browser.violations()).toEqual([]);
  await browser.click('[data-testid=find-kind]');
  await browser.run(
    `[...document.querySelectorAll('[data-testid=find-kind-option]')].find((each) => each.innerText === 'Radiograph').focus()`
  );
  await browser.press(Key.ARROW_DOWN, Key.ENTER);
  await browser.until('limited by a kind', async () =>
    (await browser.run<string>('return location.search')).includes('kinds=')
  );
  await browser.until('none is of it', async () => (await browser.all(cards)).length === 0);
  // By grade and by category as well.
  const [{ picture_id: graded }] = await clinic.rows<{ picture_id: string }>(
    `update picture set told = coalesce(told, '{}') || '{"grade": "limited"}' where picture_id =
       (select picture_id from picture where away is null order by taken_at limit 1) returning picture_id`
  );
  await browser.go('/pictures?grade=limited');
  await browser.untilLive();
  await browser.untilSays('[data-testid=find-grade]', 'limited');
  await browser.untilCount(cards, 1);
  expect(await browser.run(`return document.querySelector('${cards}').dataset.picture`)).toBe(graded);
  const [{ category_id: category }] = await clinic.rows<{ category_id: string }>(
    `select category_id from category where dropped_at is null and clinic_id = (select clinic_id from picture where picture_id = $1)
     order by place limit 1`,
    [graded]
  );
  await browser.click('[data-testid=find-category]');
  await browser.run(`document.querySelector('[data-testid=find-category-option]').focus()`);
  await browser.press(Key.ARROW_DOWN, Key.ENTER);
  await browser.until('limited by a category', async () =>
    (await browser.run<string>('return location.search')).includes(category)
  );
});

it('five thousand pictures are a window, not a page: the end is come to, and few are drawn at a time', async () => {
  const [{ visit_id: visitId, clinic_id: clinicId, digest }] = await clinic.rows<{
    visit_id: string;
    clinic_id: string;
    digest: Buffer;
  }>(
    `select visit_id, clinic_id, original_sha256 as digest from picture
     where patient_id = $1 and away is null order by taken_at limit 1`,
    [patientId]
  );
  await clinic.rows(
    `insert into picture (picture_id, clinic_id, patient_id, visit_id, original_sha256, media_type, file_name, source, kind,
        width, height, channels, bits_stored, sample_offset, frames, facts, first_look, taken_at, instance_uid, number)
     select gen_random_uuid(), $1, $2, $3, $4, p.media_type, 'many ' || n, p.source, p.kind, p.width, p.height, p.channels,
       p.bits_stored, p.sample_offset, p.frames, p.facts, p.first_look, now() - interval '5 years' - n * interval '1 hour', 'many' || n, n + 1000
     from generate_series(1, 5000) n, (select * from picture where patient_id = $2 and original_sha256 = $4 limit 1) p`,
    [clinicId, patientId, visitId, digest]
  );
  await open('?words=many');
  expect(await found()).toMatch(/^5000 of/);
  await focusOn((await shown())[0]);
  let last = '';
  await browser.until(
    'the last picture is come to',
    async () => {
      await browser.press(Key.END);
      const label = await browser.run<string>(
        'return document.activeElement.getAttribute("aria-label") ?? ""'
      );
      last = label;
      return label.startsWith('many 5000,');
    },
    60_000
  );
  expect(last).toContain('many 5000');
  expect((await browser.all(cards)).length).toBeLessThan(80);
});
