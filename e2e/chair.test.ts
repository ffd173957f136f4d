import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { password } from '../demo/clinic';
import { Browser } from './harness/browser';
import { atTheChair } from './harness/chair';
import { RunningClinic } from './harness/running';

let clinic: RunningClinic;
let browser: Browser;
const { lampIs, begin } = atTheChair(() => browser);

beforeAll(async () => {
  clinic = await RunningClinic.start({
    opensArmed: true,
    devices: ['Sensor 1', 'Panel 1', 'Panel 2', 'Sensor 2']
  });
  browser = await Browser.open(clinic.origin);
  await browser.signIn('mara', password);
});
afterAll(async () => {
  await browser?.close();
  await clinic?.stop();
});

const acquire = (words: string) =>
  browser.until(words, async () => (await browser.text('[data-testid=station-acquire]')).includes(words));
const next = () => browser.text('[data-testid=next-slot]');
const nextIs = (name: string) => browser.until(`next is ${name}`, async () => (await next()) === name);

/** Presses a key while others are held. */
async function chord(...keys: string[]): Promise<void> {
  const held = keys.slice(0, -1);
  const actions = browser.driver.actions();
  for (const key of held) actions.keyDown(key);
  actions.sendKeys(keys.at(-1)!);
  for (const key of held) actions.keyUp(key);
  await actions.perform();
}

async function expose(fault?: string): Promise<void> {
  await lampIs('ready');
  if (fault) {
    await browser.click('[aria-label^="How the exposure turns out"]');
    await browser.click(`[role=option][data-value="${fault}"]`);
  }
  await browser.click('[data-testid=demo-expose]');
}
/** The route of the visit's newest tray as the records have it, with how many takes each slot has. */
async function takesOf(record: string): Promise<{ slot: string; takes: number }[]> {
  const rows = await clinic.rows<{ slot: string; takes: string }>(
    `select s.slot_id as slot, count(*) as takes from standing s join visit v using (visit_id) join patient p using (patient_id)
     where p.record_number = '${record}' and s.slot_id is not null group by 1 order by 1`
  );
  return rows.map(({ slot, takes }) => ({ slot, takes: Number(takes) }));
}

describe('a visit that begins with one press', () => {
  it('of bones: the reason names the pattern, the panel is ready, and the series runs by itself', async () => {
    await begin('QS-1068');
    expect(await browser.text('[data-testid=pattern]')).toBe('Right ankle');
    const order = [];
    for (const left of ['2 empty', '1 empty', 'all taken']) {
      await lampIs('ready');
      order.push(await next());
      await browser.click('[data-testid=demo-expose]');
      await acquire(left);
    }
    expect(order).toEqual([
      'Right ankle, from the front',
      'Right ankle, oblique',
      'Right ankle, from the side'
    ]);
    expect(await takesOf('QS-1068')).toEqual(
      ['front', 'oblique', 'side'].map((slot) => ({ slot, takes: 1 }))
    );
    await lampIs('resting');
  });

  it('of an animal: by its species, with the device that each view wants', async () => {
    await begin('QS-A204');
    expect(await browser.text('[data-testid=pattern]')).toBe('Dog, hips');
    await expose();
    await acquire('1 empty');
    await expose();
    await acquire('all taken');
    await begin('QS-A209');
    expect(await browser.text('[data-testid=pattern]')).toBe('Cat, full mouth');
    await lampIs('ready');
    await expose();
    await nextIs('Upper right canine');
    const [{ name }] = await clinic.rows<{ name: string }>(
      `select d.name from device d join arming using (arming_id) join tray using (tray_id) join visit v using (visit_id)
       join patient p using (patient_id) where p.record_number = 'QS-A209'`
    );
    expect(name).toBe('Sensor 2');
    await browser.click('[data-testid=wide-button]');
    await lampIs('resting');
  });
});

describe('a take that must be taken again', () => {
  it('is told of at once, in words, on the stage and on its well; taken again it is gone', async () => {
    await begin('QS-1004');
    await expose('nothing');
    await acquire('3 empty');
    const advice = await browser.find('[data-testid=advice]');
    expect(await advice.getAttribute('data-kind')).toBe('nothing exposed');
    await browser.find('[data-testid=well-bw-right-molars] [data-testid=well-advice]');
    await acquire('3 empty, 1 doubtful');
    // It never takes the hand off the series: the device waits for the next slot meanwhile.
    await lampIs('ready');
    await browser.click('[data-testid=advice-retake]');
    await nextIs('Right molars');
    await expose('good');
    await nextIs('Right premolars');
    await browser.until(
      'the advice is gone',
      async () => (await browser.all('[data-testid=advice]')).length === 0
    );
    expect(await browser.all('[data-testid=well-advice]')).toHaveLength(0);
    expect(await takesOf('QS-1004')).toEqual([{ slot: 'bw-right-molars', takes: 2 }]);
  });

  it('is not, when a person says so; that is kept under the name', async () => {
    await expose('nothing');
    await browser.click('[data-testid=advice-not-so]');
    await browser.until(
      'the advice is gone',
      async () => (await browser.all('[data-testid=advice]')).length === 0
    );
    await browser.untilKept();
    const denied = await clinic.rows<{ kind: string; name: string }>(
      `select kind, display_name as name from advice_denied join user_account using (user_id)`
    );
    expect(denied).toEqual([{ kind: 'nothing exposed', name: 'Mara Fennick' }]);
    await lampIs('ready');
    await browser.click('[data-testid=wide-button]');
    await lampIs('resting');
  });
});

describe('acts on a tray', () => {
  it('are taken back and brought back by keys, exactly', async () => {
    const wells = () =>
      browser.run<string[]>(
        `return [...document.querySelectorAll('[data-testid^="well-bw"]')].map((well) => well.getAttribute('aria-label'))`
      );
    const before = await wells();
    const [from, to] = ['bw-right-molars', 'bw-left-molars'];
    await browser.run('document.activeElement.blur()');
    await browser.click(`[data-testid=well-${from}]`);
    await browser.press('b');
    await browser.untilCount('[data-testid=bench-take]', 1);
    await chord(Key.CONTROL, 'z');
    await browser.untilCount('[data-testid=bench-take]', 0);
    await browser.until('all is as it was', async () => (await wells()).join() === before.join());
    await chord(Key.CONTROL, Key.SHIFT, 'z');
    await browser.untilCount('[data-testid=bench-take]', 1);
    await chord(Key.CONTROL, 'z');
    await browser.untilCount('[data-testid=bench-take]', 0);
    expect(await browser.all(`[data-testid=well-${to}][data-state=empty]`)).toHaveLength(1);
  });

  it('lay it along another route, leave a slot out, and give both back', async () => {
    const wells = () =>
      browser.run<string[]>(
        `return [...document.querySelectorAll('[data-testid^="well-bw"]')].map((well) => well.dataset.testid)`
      );
    const order = async () =>
      (await browser.all('[data-testid=tray-order] li')).length === 0
        ? []
        : browser.run<string[]>(
            `return [...document.querySelectorAll('[data-testid=tray-order] .font-semibold')].map((each) => each.textContent)`
          );
    await browser.click('[data-testid=pattern]');
    await browser.driver
      .findElement({ xpath: '//*[@role="tab"][contains(., "Order of this tray")]' })
      .click();
    await browser.click('[aria-label="Left molars earlier"]');
    await browser.until('the left molars are third', async () => (await order())[2] === 'Left molars');
    await browser.click('[data-testid=route-usual]');
    await browser.until('the usual route', async () => (await order())[3] === 'Left molars');
    await browser.click('[aria-label="Leave out Left molars"]');
    await browser.until('three are left', async () => (await order()).length === 3);
    await browser.press(Key.ESCAPE);
    expect(await wells()).toHaveLength(3);
    await chord(Key.CONTROL, 'z');
    await browser.until('it is back', async () => (await wells()).length === 4);
    await browser.untilKept();
  });

  it('are told by words that the product ships, when somebody wants words', async () => {
    await browser.click('[data-testid=cues]');
    await browser.click('[data-testid=cues-words]');
    await browser.until('the word was fetched', () =>
      browser.run('return performance.getEntriesByName(location.origin + "/spoken/ready.wav").length > 0')
    );
    for (const word of ['ready', 'stored', 'doubtful', 'done', 'faulted', 'absent'])
      expect(
        await browser.driver.executeAsyncScript(
          `const done = arguments[1];
           fetch('/spoken/' + arguments[0] + '.wav').then((answer) => answer.arrayBuffer())
             .then((bytes) => new OfflineAudioContext(1, 1, 16000).decodeAudioData(bytes))
             .then((sound) => done(sound.duration > 0.2 && sound.getChannelData(0).some((each) => Math.abs(each) > 0.2)), (error) => done(String(error)))`,
          word
        )
      ).toBe(true);
    expect(await browser.run('return localStorage.cues')).toBe('words');
  });

  it('are listed by the key that lists keys', async () => {
    await browser.run('document.activeElement.blur()');
    await browser.press('?');
    const words = await browser.text('[data-testid=keys]');
    for (const each of ['What to take', 'Anchor this slot', 'Take back', 'Find a patient'])
      expect(words).toContain(each);
    await browser.press(Key.ESCAPE);
    await browser.untilCount('[data-testid=keys]', 0);
  });
});

describe('a tray for this once', () => {
  it('is laid from the body map in the order that was asked, and taken', async () => {
    await begin('QS-1031');
    await browser.click('[data-testid=pattern]');
    await browser.driver.findElement({ xpath: '//*[@role="tab"][contains(., "For this once")]' }).click();
    for (const tooth of [36, 37, 16]) await browser.click(`[data-place="tooth:${tooth}"]`);
    await browser.click('[aria-label="Upper right first molar earlier"]');
    await browser.click('[data-testid=lay-wanted]');
    await nextIs('Upper right first molar');
    await acquire('2 empty');
    await expose();
    await nextIs('Lower left molars');
    await expose();
    await acquire('all taken');
    const [{ name, visit_only }] = await clinic.rows<{ name: string; visit_only: boolean }>(
      `select name, visit_id is not null as visit_only from pattern order by made_at desc limit 1`
    );
    expect([name, visit_only]).toEqual(['For this once', true]);
  });

  it('grows by single shots, said one before each', async () => {
    await browser.click('[data-testid=pattern]');
    await browser.driver.findElement({ xpath: '//*[@role="tab"][contains(., "For this once")]' }).click();
    await browser.click('[data-place="tooth:11"]');
    await browser.click('[data-testid=add-wanted]');
    await nextIs('Upper right central incisor');
    await browser.click('[data-testid=wide-button]');
    await expose();
    await acquire('all taken');
    expect((await takesOf('QS-1031')).map(({ takes }) => takes)).toEqual([1, 1, 1]);
    expect(await browser.text('[data-testid=shown-name]')).toBe('Upper right central incisor');
  });
});

describe('a pattern of the clinic’s own', () => {
  const well = async (i: number) => (await browser.all('[data-testid=pattern-well]'))[i];
  it('is made from nothing: wells by touch, the route pulled through them, and kept', async () => {
    await browser.go('/patterns/new?trade=teeth');
    await browser.untilLive();
    for (const tooth of [16, 11, 26]) {
      await browser.click(`[data-place="tooth:${tooth}"]`);
      await browser.click('[data-testid=another-slot]');
    }
    await (await browser.find('[data-testid=pattern-name]')).sendKeys('Three at the top');
    await browser.click('[data-testid=hand-thread]');
    await browser.click('[data-testid=pull-out]');
    const surface = await (await browser.find('[data-testid=surface]')).getRect();
    const middle = async (i: number): Promise<{ x: number; y: number }> => {
      const box = await (await well(i)).getRect();
      return { x: Math.round(box.x + box.width / 2), y: Math.round(box.y + box.height / 2) };
    };
    expect(surface.width).toBeGreaterThan(500);
    const [first, second, third] = [await middle(2), await middle(0), await middle(1)];
    await browser.driver
      .actions()
      .move(first)
      .press()
      .move({ ...second, duration: 120 })
      .move({ ...third, duration: 120 })
      .release()
      .perform();
    await browser.click('[data-testid=keep-pattern]');
    await browser.find('[data-testid=pattern-entry]');
    const [{ slots, slot_order }] = await clinic.rows<{
      slots: { id: string; name: string }[];
      slot_order: string[];
    }>(
      `select p.slots, r.slot_order from pattern p join route r on r.pattern_id = p.pattern_id where p.name = 'Three at the top'`
    );
    const names = slot_order.map((id) => slots.find((slot) => slot.id === id)!.name);
    // The pull from the left well to the right one passes over the middle one, which it takes on its way.
    expect(names[0]).toBe(slots[2].name);
    expect([...names].sort()).toEqual(slots.map(({ name }) => name).sort());
  });

  it('refuses a route that misses some, in words, and loses nothing', async () => {
    await browser.go('/patterns/new?trade=bones');
    await browser.untilLive();
    await browser.click('[data-place="bone:person:elbow:left"]');
    await (await browser.find('[data-testid=pattern-name]')).sendKeys('Elbow, ours');
    await browser.click('[data-testid=hand-thread]');
    await browser.click('[data-testid=pull-out]');
    await (await well(0)).sendKeys(' ');
    await browser.click('[data-testid=keep-pattern]');
    await browser.until('the refusal is said', async () =>
      (await browser.run<string>('return document.body.innerText')).includes(
        'The route misses “Left elbow, from the side”'
      )
    );
    await browser.go('/patterns/new?trade=bones');
    await browser.untilLive();
    await browser.untilCount('[data-testid=pattern-well]', 2);
    await browser.click('[data-testid=hand-thread]');
    await (await well(1)).sendKeys(' ');
    await browser.click('[data-testid=keep-pattern]');
    await browser.until('it is kept', async () =>
      (await browser.run<string>('return location.pathname')).endsWith('/patterns')
    );
  });

  it('is laid and taken like any other', async () => {
    await begin('QS-1052');
    await browser.click('[data-testid=pattern]');
    await (await browser.find('[data-testid=find-pattern]')).sendKeys('three at', Key.ENTER);
    await nextIs('Upper left first molar');
    await acquire('3 empty');
    await expose();
    await acquire('2 empty');
    await browser.click('[data-testid=wide-button]');
    await lampIs('resting');
  });
});

describe('two visits that want one device', () => {
  it('the second is asked before it takes it over, and the first is told', async () => {
    const other = await Browser.open(clinic.origin);
    try {
      await browser.click('[data-testid=wide-button]');
      await lampIs('ready');
      await other.signIn('orsin', password);
      await other.click('[data-record=QS-1060]');
      await other.find('[data-lamp=elsewhere]');
      expect(await other.run<string>('return document.body.innerText')).toContain(
        'Sensor 1 waits for Matthis Quayle (Mara Fennick)'
      );
      await other.click('[data-testid=wide-button]');
      await other.click('[data-testid=take-over]');
      await other.until('it is ready', async () => (await other.all('[data-lamp=ready]')).length > 0);
      await browser.until('the first is told', async () =>
        (await browser.run<string>('return document.body.innerText')).includes(
          'Orsin Vael took Sensor 1 over for another visit'
        )
      );
      await lampIs('elsewhere');
    } finally {
      await other.close();
    }
  });
});
