// Takes the pictures in docs/screenshots from a running, fresh demo clinic:
//   npx tsx scripts/screenshots.ts http://127.0.0.1:4780
import { Key } from 'selenium-webdriver';
import { password } from '../demo/clinic';
import { Browser } from '../e2e/harness/browser';

const browser = await Browser.open(process.argv[2] ?? 'http://127.0.0.1:4780');
const still = () => new Promise((done) => setTimeout(done, 700));
const keep = async (name: string) => {
  await browser.until(
    'it is drawn',
    async () => !/Working out/.test(await browser.run<string>('return document.body.innerText'))
  );
  await browser.untilSmallPictures();
  await still();
  await browser.picture(`docs/screenshots/${name}.png`);
};
/** The device stands ready, also when it had gone to rest meanwhile. */
const ready = async () => {
  const isReady = async () => (await browser.all('[data-lamp=ready]')).length > 0;
  await still();
  if ((await browser.all('[data-lamp=resting], [data-lamp=elsewhere]')).length > 0)
    await browser.click('[data-testid=wide-button]');
  await still();
  if ((await browser.all('[data-testid=take-over]')).length > 0)
    await browser.click('[data-testid=take-over]');
  await browser.until('ready', isReady);
};
const visitOf = async () => /visits\/([0-9a-f-]+)/.exec(await browser.driver.getCurrentUrl())![1];

/** A visit that begins with one press, with its first take. */
async function begun(record: string, left: string): Promise<void> {
  await browser.go('/');
  await browser.untilLive();
  await browser.click(`[data-record=${record}]`);
  await browser.find('[data-testid=next-slot]');
  await ready();
  await browser.click('[data-testid=demo-expose]');
  await browser.until(left, async () => (await browser.text('[data-testid=station-acquire]')).includes(left));
  await ready();
}

try {
  await browser.signIn('orsin', password);
  await begun('QS-1068', '2 empty');
  // What waits from the start, and the disc from the mainland.
  await browser.go('/arrivals');
  await browser.untilLive();
  await browser.click('[data-testid=bring-in]');
  await browser.click('[data-testid=server-folder]');
  await browser.until('the disc is offered', () =>
    browser.run(
      `const of = [...document.querySelectorAll('[role=dialog] button')].find((each) => /From the mainland/.test(each.textContent));
       of?.click(); return Boolean(of)`
    )
  );
  await browser.untilSays('[data-testid=intake-told]', '9 came in');
  await browser.run(
    `[...document.querySelectorAll('[data-testid=arrival]')].find((each) => /Liv Sund/.test(each.textContent)).click()`
  );
  await browser.find('[data-testid=proposed]');
  await browser.untilSmallPictures();
  await still();
  await keep('arrivals');
  await browser.go('/');
  await browser.untilLive();
  await browser.click('[data-record=QS-1004]');
  await browser.find('[data-testid=next-slot]');
  if ((await browser.all('[data-state=empty], [data-state=next]')).length === 4) {
    for (const left of ['3 empty', '2 empty']) {
      await ready();
      await browser.click('[data-testid=demo-expose]');
      await browser.until(left, async () =>
        (await browser.text('[data-testid=station-acquire]')).includes(left)
      );
    }
  }
  await ready();
  await keep('acquire');
  await browser.go('/');
  await browser.untilLive();
  await browser.click('[data-record=QS-1040]');
  await browser.click('[data-testid=story]');
  await browser.find('[data-testid=story-reason]');
  for (const picture of await browser.all('[data-testid=tell-picture]')) await picture.click();
  await browser.untilKept();
  await keep('story');
  await browser.click('[data-testid=to-report]');
  await browser.until('it is drawn', () =>
    browser.run(`return document.querySelector('[data-testid=sheet] canvas[data-drawn]') !== null`)
  );
  await keep('report');
  await browser.go(`/visits/${await visitOf()}/letters`);
  await browser.untilLive();
  await browser.click('[data-testid=letter-to]');
  await browser.press(Key.ARROW_DOWN, Key.ENTER);
  await browser.click('[data-testid=letter-begin]');
  await browser.untilCount('[data-place]', 2);
  await browser.click('[data-place][data-filled=no]');
  await keep('letter');
  await browser.go('/');
  await browser.untilLive();
  await keep('today');
  await browser.click('[data-record=QS-1011]');
  await browser.find('h2');
  await still();
  const visit = await visitOf();
  const chart = await browser.run<string>(
    `return [...document.querySelectorAll('a')].map((a) => a.getAttribute('href')).find((href) => href?.startsWith('/patients/'))`
  );
  await browser.go(`/visits/${visit}/measure`);
  await browser.untilLive();
  await browser.find('[data-testid=stage][data-picture]:not([data-picture=""])');
  if ((await browser.all('[data-testid=reading]')).length === 0) {
    await browser.click('[data-testid=tool-length]');
    await browser.drag('[data-testid=stage]', [300, 330], [470, 340]);
    await browser.find('[data-testid=reading]');
    await browser.click('[data-testid=tools-measure]');
    await browser.click('[data-testid=tool-area]');
    for (const point of [
      [460, 170],
      [640, 160],
      [650, 250],
      [470, 260],
      [470, 260]
    ] as [number, number][])
      await browser.drag('[data-testid=stage]', point, point);
    await browser.click('[data-testid=tools-draw]');
    await browser.click('[data-testid=tool-arrow]');
    await browser.drag('[data-testid=stage]', [560, 420], [700, 330]);
    await browser.untilCount('[data-testid=reading-row]', 3);
  }
  await keep('light-table');
  for (const station of ['check', 'scale', 'file']) {
    await browser.go(`/visits/${visit}/${station}`);
    await browser.untilLive();
    await keep(station);
  }
  await browser.go(`/visits/${visit}/print`);
  await browser.until('the sheet is drawn', () =>
    browser.run(`return document.querySelector('[data-testid=sheet] canvas[data-drawn]') !== null`)
  );
  await keep('print');
  await browser.go('/');
  await browser.untilLive();
  await browser.click('[data-record=QS-1040]');
  await browser.find('h2');
  await still();
  await browser.go(`/visits/${await visitOf()}/measure`);
  await browser.untilLive();
  await browser.run('document.querySelector("[data-testid=stage]").focus()');
  await browser.press('v');
  await browser.find('[data-testid=histogram]');
  for (const kind of ['local-contrast', 'unsharp']) {
    await browser.click('[data-testid=add-step]');
    await browser.click(`[data-testid=add-${kind}]`);
  }
  await browser.find('[data-testid=stage][data-sharp=true]');
  await keep('bones');
  await browser.press('v', '2');
  await browser.click('[data-testid=guide-start]');
  // Where the landmarks of this simulated wrist lie, in shares of the stage.
  for (const [across, down] of [
    [0.49, 0.94],
    [0.49, 0.7],
    [0.577, 0.5],
    [0.453, 0.565]
  ]) {
    const [left, top, width, height] = await browser.run<number[]>(
      `const box = document.querySelector('[data-testid=stage]').getBoundingClientRect();
       return [box.left, box.top, box.width, box.height]`
    );
    await browser.driver
      .actions()
      .move({ x: Math.round(left + across * width), y: Math.round(top + down * height) })
      .press()
      .release()
      .perform();
    await still();
  }
  await keep('guide');
  await browser.click('[data-testid=guide-leave]');
  await browser.untilKept();
  await browser.go(chart);
  await browser.untilLive();
  await keep('chart');
  const filled = await browser.run<string>(
    `return [...document.querySelectorAll('[data-testid=chart-picture]')].find((a) => a.innerText.includes('Lower right premolars')).getAttribute('href')`
  );
  await browser.go(filled);
  await browser.untilLive();
  await browser.find('[data-testid=stage][data-picture]:not([data-picture=""])');
  await browser.press('k');
  await browser.click('[data-testid=earlier]');
  await browser.untilCount('[data-testid=stage][data-sharp=true]', 2);
  await browser.click('[data-testid=then-find]');
  await browser.find('[data-testid=then-found]');
  await browser.click('[data-testid=then-mode-difference]');
  await browser.find('[data-testid=changes-over]');
  await keep('then-and-now');
  await browser.go('/');
  await browser.untilLive();
  const loop = await browser.run<string>(
    `return fetch('/api/patients?words=QS-A222').then((r) => r.json())
       .then(({ patients }) => fetch('/patients/' + patients[0].patientId)).then((r) => r.text())
       .then((page) => page.match(/visits.([0-9a-f-]{36})/)[1])`
  );
  await browser.go(`/visits/${loop}/de-identify`);
  await browser.untilLive();
  await browser.click('[data-testid=find-writing]');
  await browser.find('[data-testid=found-writing]');
  await keep('de-identify');
  await browser.go('/dispatch?show=all');
  await browser.untilLive();
  await keep('dispatch');
  await browser.go('/shelf');
  await browser.untilLive();
  await browser.until('cases are packed', async () => !/packing/.test(await browser.text('main')));
  await browser.click('[data-testid=spine]');
  await browser.find('[data-testid=case-picture]');
  await browser.click('[data-testid=show-found]');
  await keep('shelf');
  await browser.signOut();
  await browser.signIn('wren', password);
  await browser.go('/settings/papers');
  await browser.untilLive();
  await (await browser.find('[data-testid=head-address]')).sendKeys('\nTelephone 44 12', Key.TAB);
  await browser.untilSays('[data-testid=head-shown]', 'Telephone');
  await browser.go('/settings');
  await browser.untilLive();
  await browser.click('label:has(input[value=palmer])');
  await browser.click('form button.main');
  await browser.untilSays('main', 'Saved.');
  await browser.go('/settings/changes');
  await browser.untilLive();
  await browser.click('[data-testid=take-back-setting]');
  await browser.untilSays('[data-testid=setting-changes]', 'taken back');
  await keep('settings');
} finally {
  await browser.close();
}
