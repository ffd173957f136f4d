import AxeBuilder from '@axe-core/webdriverjs';
import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { otherPassword, password } from '../demo/clinic';
import { past } from '../demo/past';
import { Asking } from './harness/asking';
import { Browser } from './harness/browser';
import { RunningClinic } from './harness/running';

let clinic: RunningClinic;
let browser: Browser;
let visitId = '';
let patientId = '';
let pictureId = '';
let trayId = '';

beforeAll(async () => {
  clinic = await RunningClinic.start({ past: past.slice(0, 1) });
  browser = await Browser.open(clinic.origin);
  const [row] = await clinic.rows<Record<'visit_id' | 'patient_id' | 'picture_id' | 'tray_id', string>>(
    `select v.visit_id, v.patient_id, p.picture_id, t.tray_id from visit v join picture p using (visit_id)
     join tray t using (visit_id) order by v.opened_at desc limit 1`
  );
  ({ visit_id: visitId, patient_id: patientId, picture_id: pictureId, tray_id: trayId } = row);
});
afterAll(async () => {
  await browser?.close();
  await clinic?.stop();
});

const stations = ['acquire', 'check', 'scale', 'measure', 'de-identify', 'file'];
const views = () => [
  '/',
  `/patients/${patientId}`,
  ...stations.map((each) => `/visits/${visitId}/${each}`),
  '/settings',
  '/kit'
];

/** All rules, or those alone that a dim room may break: everything else is the same in both. */
async function violations(where: string, rules?: string[]): Promise<string[]> {
  await browser.go(where);
  await browser.untilLive();
  await browser.until(
    'it is drawn',
    async () => !/Working out/.test(await browser.run<string>('return document.body.innerText'))
  );
  await browser.untilSmallPictures();
  const axe = new AxeBuilder(browser.driver);
  const { violations: found } = await (rules ? axe.withRules(rules) : axe).analyze();
  return found.map((each) => `${where}: ${each.id}: ${each.nodes.map((node) => node.html).join(' | ')}`);
}

describe('every main view', () => {
  it('has no axe violation, in the bright room and the dim one', async () => {
    expect(await violations('/sign-in')).toEqual([]);
    await browser.signIn('orsin', password);
    const found = [];
    for (const where of views()) found.push(...(await violations(where)));
    await browser.run(`document.cookie = 'room=dim; path=/'`);
    for (const where of views()) found.push(...(await violations(where, ['color-contrast'])));
    await browser.run(`document.cookie = 'room=bright; path=/'`);
    expect(found).toEqual([]);
  });

  it('works at 1024 wide: nothing reaches past the edge', async () => {
    await browser.resize(1024, 768);
    for (const where of views()) {
      await browser.go(where);
      await browser.untilLive();
      expect(await browser.run('return document.documentElement.scrollWidth <= 1024'), where).toBe(true);
    }
    await browser.resize(1280, 800);
  });

  it('shows teeth in the clinic’s notation once an administrator has changed it', async () => {
    await browser.go('/');
    await browser.untilLive();
    await browser.signOut();
    await browser.signIn('wren', password);
    await browser.go('/settings');
    await browser.untilLive();
    await browser.click('label:has(input[value=universal])');
    await browser.click('form button.main');
    await browser.until('it is kept', async () =>
      (await browser.run<string>('return document.body.innerText')).includes('Kept.')
    );
    await browser.go(`/visits/${visitId}/acquire`);
    expect(await browser.text('[data-testid=well-bw-right-molars]')).toContain('3 2 1 30 31 32');
    await browser.go('/audit');
    await browser.until('the audit is whole', async () =>
      (await browser.text('h1')).includes('none was changed, none is missing')
    );
  });

  it('finds a patient by keyboard alone', async () => {
    await browser.go('/');
    await browser.untilLive();
    await browser.driver.actions().keyDown(Key.CONTROL).sendKeys('k').keyUp(Key.CONTROL).perform();
    await (await browser.find('[data-testid=search]')).sendKeys('oyster fen');
    // She comes before the pony and the ewe that she owns.
    await browser.untilCount('[role=listbox] [role=option]', 3);
    await browser.press(Key.ENTER);
    await browser.until(
      'her chart is open',
      async () =>
        (await browser.all('[data-testid=band-name]')).length > 0 &&
        (await browser.text('[data-testid=band-name]')) === 'Fenna Oystergaard'
    );
  });
});

it('ten tabs of one browser all open, and all hear of a change', async () => {
  await browser.go('/');
  await browser.untilLive();
  await browser.signOut();
  await browser.signIn('orsin', password);
  const { driver } = browser;
  const first = await driver.getWindowHandle();
  for (let i = 0; i < 9; i++) {
    await driver.switchTo().newWindow('tab');
    await browser.go(`/visits/${visitId}/check`);
    await browser.untilLive();
  }
  const tabs = await driver.getAllWindowHandles();
  await driver.switchTo().window(first);
  await browser.go(`/visits/${visitId}/check`);
  await browser.untilLive();
  const left = async () =>
    /\d+(?= to confirm)/.exec(await browser.text('[data-testid=station-check]'))?.[0] ?? '0';
  const before = Number(await left());
  // The tab that listened for the others goes first.
  await driver.switchTo().window(tabs[1]);
  await driver.close();
  await driver.switchTo().window(first);
  await browser.click('[data-testid=confirm]');
  for (const tab of tabs.filter((each) => each !== tabs[1])) {
    await driver.switchTo().window(tab);
    await browser.until('the change is heard', async () => Number(await left()) === before - 1);
    if (tab !== first) await driver.close();
  }
  await driver.switchTo().window(first);
});

describe('every route', () => {
  const reads = () => [
    `/api/pictures/${pictureId}`,
    `/api/pictures/${pictureId}/levels/1`,
    `/api/pictures/${pictureId}/preview?seq=0&turn=0`,
    `/api/visits/${visitId}/trays`,
    `/api/visits/${visitId}/deliveries`,
    `/api/patients/${patientId}/pictures?after=2026-01-01T00:00:00.000Z_${pictureId}`
  ];
  const readsOfOwn = ['/api/patients?words=a', '/api/news', '/api/day', '/api/markers'];
  const nothing = crypto.randomUUID();
  const ref = { id: nothing, version: 1 };
  const writes = (): [string, string, unknown][] => [
    ['POST', `/api/trays/${trayId}`, { kind: 'anchor-lifted' }],
    ['POST', `/api/visits/${visitId}/trays`, { pattern: ref, route: ref }],
    ['POST', `/api/visits/${visitId}/leaving`, { pictureIds: [pictureId] }],
    ['POST', `/api/visits/${visitId}/files?name=a.png`, {}],
    [
      'POST',
      `/api/visits/${visitId}/parcels`,
      { destinationId: nothing, identity: 'identified', pictureIds: [pictureId] }
    ],
    ['POST', `/api/pictures/${pictureId}/acts`, { changes: [{ kind: 'look', item: null, body: null }] }],
    ['POST', `/api/pictures/${pictureId}/take-back`, {}],
    ['POST', `/api/pictures/${pictureId}/bring-back`, {}],
    ['POST', '/api/links', { links: [{ pictureId, places: [{ kind: 'tooth', tooth: 11 }] }] }],
    ['POST', '/api/visits', { patientId, roomId: nothing }],
    ['POST', `/api/deliveries/${nothing}`, {}],
    ['POST', `/api/devices/${nothing}`, { kind: 'rest' }]
  ];
  const ask = (who: Asking, method: string, where: string, body: unknown) =>
    method === 'GET' ? who.get(where) : who.send(method, where, body);

  it('is closed to nobody, and pages lead to signing in', async () => {
    const nobody = Asking.nobody(clinic);
    for (const where of [...reads(), ...readsOfOwn])
      expect((await ask(nobody, 'GET', where, undefined)).status, where).toBe(401);
    for (const [method, where, body] of writes())
      expect((await ask(nobody, method, where, body)).status, where).toBe(401);
    for (const where of views()) {
      const { status, location } = await nobody.get(where);
      expect([status, location?.split('?')[0]], where).toEqual([303, '/sign-in']);
    }
    expect((await nobody.get('/device/v1/instructions')).status).toBe(401);
    expect((await nobody.send('PUT', '/device/v1/lamp', { lamp: 'ready' })).status).toBe(401);
  });

  it('shows another clinic nothing and takes nothing from it', async () => {
    const stranger = await Asking.as(clinic, 'tamsin', otherPassword);
    for (const where of reads()) expect((await stranger.get(where)).status, where).toBe(404);
    for (const [method, where, body] of writes())
      expect((await ask(stranger, method, where, body)).status, where).toBe(404);
    for (const where of views().slice(1, -2)) expect((await stranger.get(where)).status, where).toBe(404);
  });

  it('lets each role do what it may, and nothing else', async () => {
    const allowed: Record<string, string[]> = {
      mara: ['acquire', 'bring in files', 'change pictures', 'link', 'send'],
      orsin: ['acquire', 'bring in files', 'change pictures', 'confirm', 'link', 'send'],
      dell: ['bring in files', 'link', 'send'],
      wren: ['change settings', 'read the audit']
    };
    const confirm = { kind: 'confirmation-withdrawn', slotId: 'bw-right-molars' };
    const asks: [string, string, string, unknown][] = [
      ['acquire', 'POST', `/api/trays/${trayId}`, { kind: 'anchor-lifted' }],
      ['confirm', 'POST', `/api/trays/${trayId}`, confirm],
      ['acquire', 'POST', `/api/visits/${visitId}/trays`, { pattern: ref, route: ref }],
      ['bring in files', 'POST', `/api/visits/${visitId}/files?name=a.png`, {}],
      ['change pictures', 'POST', `/api/pictures/${pictureId}/take-back`, {}],
      ['link', 'POST', '/api/links', { links: [{ pictureId, places: [] }] }],
      ['send', 'POST', `/api/visits/${visitId}/leaving`, { pictureIds: [pictureId] }],
      ['change settings', 'POST', '/api/markers', { name: 'Pin', sizeMm: 2, toleranceMm: 0.1 }],
      ['read the audit', 'GET', '/audit', undefined]
    ];
    for (const [who, may] of Object.entries(allowed)) {
      const asking = await Asking.as(clinic, who, password);
      for (const [permission, method, where, body] of asks) {
        const { status } = await ask(asking, method, where, body);
        expect(status === 403, `${who}, ${permission}, ${where}: ${status}`).toBe(!may.includes(permission));
      }
    }
  });

  it('refuses a change that another site’s page asks for', async () => {
    const { cookie } = await Asking.as(clinic, 'orsin', password);
    const answer = await fetch(`${clinic.origin}/api/visits`, {
      method: 'POST',
      headers: {
        'content-type': 'application/json',
        origin: 'http://elsewhere.example',
        cookie
      },
      body: '{}'
    });
    expect(answer.status).toBe(403);
  });

  it('answers with the headers that keep a page to itself', async () => {
    const { headers } = await fetch(`${clinic.origin}/sign-in`);
    expect(headers.get('content-security-policy')).toMatch(/default-src 'self'/);
    expect(headers.get('x-content-type-options')).toBe('nosniff');
    expect(headers.get('x-frame-options')).toBe('DENY');
  });
});
