import { plainPrint } from '../src/lib/core/print/printWish';
import { usualRule } from '../src/lib/core/deidentify/rule';
import { plainDestination } from '../src/lib/core/parcel/destination';
import fs from 'node:fs';
import path from 'node:path';
import { Key } from 'selenium-webdriver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { otherPassword, password } from '../demo/clinic';
import { past } from '../demo/past';
import { Asking } from './harness/asking';
import { fourBitewings } from '../src/lib/core/tray/shipped/fourBitewings';
import { Browser } from './harness/browser';
import { plainLayout } from './harness/layouts';
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

const ownGuide = {
  format: 'yonder-tray guide',
  formatVersion: 1,
  name: 'Gap',
  trade: 'bones',
  views: [
    {
      key: 'v1',
      name: 'From the front',
      drawing: null,
      landmarks: ['a', 'b'].map((key) => ({ key, name: key, where: 'There', x: 0.5, y: 0.5 })),
      lines: []
    }
  ],
  results: [
    {
      key: 'r1',
      name: 'Gap',
      measure: 'length',
      view: 'v1',
      of: ['a', 'b'],
      source: { author: 'We', year: 2026, title: 'House rule' },
      normal: null,
      mind: ''
    }
  ]
};
const stations = ['acquire', 'check', 'scale', 'measure', 'de-identify', 'file'];
const views = () => [
  '/',
  `/patients/${patientId}`,
  `/patients/${patientId}/overview`,
  `/patients/${patientId}/record`,
  ...[...stations, 'story', 'kept', 'report', 'print', 'letters', 'results'].map(
    (each) => `/visits/${visitId}/${each}`
  ),
  '/letters',
  '/patterns',
  '/patterns/new?trade=teeth',
  '/guides/new',
  '/patients/new',
  '/arrivals',
  '/dispatch',
  '/shelf',
  '/retakes',
  '/open?identifier=nobody',
  '/settings',
  '/kit'
];

async function drawn(where: string): Promise<void> {
  await browser.go(where);
  await browser.untilLive();
  await browser.until(
    'it is drawn',
    async () => !/Working out/.test(await browser.run<string>('return document.body.innerText'))
  );
  await browser.untilSmallPictures();
}
const violations = async (where: string, rules?: string[]) =>
  (await browser.violations(rules)).map((each) => `${where}: ${each}`);
const roomIs = (room: 'bright' | 'dim') => browser.run(`document.documentElement.dataset.room = '${room}'`);

describe('every main view', () => {
  it('has no axe violation, in the bright room and the dim one, and at 1024 wide nothing reaches past the edge', async () => {
    await drawn('/sign-in');
    expect(await violations('/sign-in')).toEqual([]);
    await browser.signIn('orsin', password);
    const found = [];
    for (const where of views()) {
      await drawn(where);
      found.push(...(await violations(where)));
      await roomIs('dim');
      found.push(...(await violations(where, ['color-contrast'])));
      await roomIs('bright');
      await browser.resize(1024, 768);
      // What is laid out by its size is so a moment later.
      await browser.run(
        'return new Promise((laid) => requestAnimationFrame(() => requestAnimationFrame(() => setTimeout(laid, 50))))'
      );
      if (await browser.run('return document.documentElement.scrollWidth > 1024'))
        found.push(`${where}: reaches past the edge`);
      const cutOff = await browser.run(
        `return [...document.querySelectorAll('[role=toolbar]')].some(({ scrollWidth, clientWidth }) => scrollWidth > clientWidth)`
      );
      if (cutOff) found.push(`${where}: not all tools can be reached`);
      await browser.resize(1280, 800);
    }
    expect(found).toEqual([]);
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
      (await browser.run<string>('return document.body.innerText')).includes('Saved.')
    );
    await browser.go(`/visits/${visitId}/acquire`);
    expect(await browser.text('[data-testid=well-bw-right-molars]')).toContain('3 2 1 30 31 32');
    await browser.go('/audit');
    await browser.untilSays('h1', 'none was changed, none is missing');
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
  const nothing = crypto.randomUUID();
  const ref = { id: nothing, version: 1 };
  const film = {
    destinationId: nothing,
    pictureIds: [nothing],
    way: 'grid',
    across: 1,
    down: 1,
    size: 'A4',
    lying: false,
    names: 'initials',
    captions: true,
    drawn: false,
    copies: 1
  };
  type Role = 'mara' | 'orsin' | 'dell' | 'wren';
  interface Route {
    method: string;
    /** As the folders of the routes write it. */
    route: string;
    where: string;
  }
  interface Asked {
    body?: unknown;
    query?: string;
    /** Who may; everybody who is signed in where it is left out. */
    may?: Role[];
  }
  const chairside: Role[] = ['mara', 'orsin'];
  const allButDell: Role[] = ['mara', 'orsin', 'wren'];
  const caseOf = (title: string) => ({
    title,
    description: '',
    keyWords: [],
    ageBand: 'not said',
    diagnosis: null,
    findings: ''
  });
  const allButWren: Role[] = ['mara', 'orsin', 'dell'];
  const wren: Role[] = ['wren'];
  const beginning = {
    template: { shipped: 'referral' },
    names: 'initials',
    colleagueId: null,
    reasons: [],
    procedures: []
  };
  /** How each is asked, and who may. A route that is not here fails the first test below. */
  const asked = (): Record<string, Asked> => ({
    'GET /api/day': {},
    'GET /api/markers': {},
    'GET /api/looks': {},
    'GET /api/guides': {},
    'GET /api/guides/schema': {},
    'GET /api/guides/[guide]': {},
    'POST /api/guides': {
      body: { of: { key: nothing, version: 1 }, guide: ownGuide },
      may: ['orsin', 'wren']
    },
    'DELETE /api/guides/[guide]': { body: {}, may: ['orsin', 'wren'] },
    'POST /api/looks': { body: { name: 'Apex', look: { from: 0, to: 1, steps: [] } }, may: chairside },
    'POST /api/looks/[look]': { body: { name: 'Apex' }, may: chairside },
    'DELETE /api/looks/[look]': { body: {}, may: chairside },
    'GET /api/news': {},
    'GET /api/patients': { query: '?words=a' },
    'GET /api/patients/[patient]/showing': { query: '?place=tooth:11' },
    'GET /api/patients/[patient]/pictures': { query: '?words=a' },
    'GET /api/patients/[patient]/bin': {},
    'GET /api/pictures': { query: '?kinds=radiograph' },
    'POST /api/pictures/delete': { body: { pictureIds: [nothing], reason: 'twice' }, may: allButDell },
    'POST /api/pictures/to-arrivals': { body: { pictureIds: [nothing], reason: 'whose' }, may: chairside },
    'POST /api/pictures/bring-back': { body: { pictureIds: [nothing] }, may: allButDell },
    'GET /api/categories': {},
    'POST /api/categories': { body: { name: 'Kept' }, may: allButDell },
    'POST /api/categories/[category]': { body: { name: 'Kept' }, may: allButDell },
    'DELETE /api/categories/[category]': { body: {}, may: allButDell },
    'POST /api/categories/[category]/pictures': {
      body: { pictureIds: [pictureId], filed: true },
      may: allButWren
    },
    'GET /api/pictures/[picture]': {},
    'GET /api/pictures/[picture]/levels/[level]': {},
    'GET /api/pictures/[picture]/same-place': {},
    'GET /api/pictures/[picture]/out': { query: '?as=png', may: allButWren },
    'GET /api/visits/[visit]/readings': { may: allButWren },
    'GET /api/visits/[visit]/results': { may: allButWren },
    'GET /api/visits/[visit]/report': { may: allButWren },
    'POST /api/visits/[visit]/report': {
      body: { names: 'initials', order: [], out: [], across: 2, drawn: true },
      may: allButWren
    },
    'POST /api/visits/[visit]/shared': {
      body: { what: 'report', way: 'printed', names: 'initials', warned: true },
      may: allButWren
    },
    'POST /api/visits/[visit]/print': { body: { ...plainPrint, pictureIds: [pictureId] }, may: allButWren },
    'POST /api/visits/[visit]/film': { body: film, may: allButWren },
    'POST /api/visits/[visit]/film/send': { body: { film, warned: true }, may: allButWren },
    'POST /api/people': {
      body: { name: 'Somebody', signInName: `somebody${Math.floor(Math.random() * 1e9)}`, role: 'assistant' },
      may: wren
    },
    'POST /api/people/[person]': { body: { act: 'end sessions' }, may: wren },
    'POST /api/password': { body: { before: 'x', after: 'a long enough one' } },
    'DELETE /api/settings/changes/[line]': { body: {}, may: wren },
    'POST /api/letterhead': { body: { address: '2 Lantern Quay' }, may: wren },
    'GET /api/letterhead/logo': {},
    'POST /api/letterhead/logo': { body: {}, may: wren },
    'DELETE /api/letterhead/logo': { body: {}, may: wren },
    'POST /api/colleagues': {
      body: {
        name: 'Dr Wick',
        greeting: '',
        practice: '',
        address: '',
        likes: 'paper',
        destinationId: null
      },
      may: allButWren
    },
    'DELETE /api/colleagues/[colleague]': { body: {}, may: allButWren },
    'POST /api/templates': {
      body: {
        of: null,
        name: `Template ${Math.random()}`,
        body: { type: 'doc', content: [{ type: 'paragraph' }] }
      },
      may: allButDell
    },
    'GET /api/templates/[template]': {},
    'POST /api/templates/[template]': { body: { retired: true }, may: allButDell },
    'POST /api/visits/[visit]/letters': { body: beginning, may: allButWren },
    'POST /api/visits/[visit]/letters/filling': { body: beginning },
    'GET /api/visits/[visit]/letters/[letter]': { may: allButWren },
    'POST /api/visits/[visit]/letters/[letter]': {
      body: {
        of: 1,
        title: 'Letter',
        body: { type: 'doc', content: [{ type: 'paragraph' }] },
        names: 'initials',
        colleagueId: null,
        reasons: [],
        procedures: []
      },
      may: allButWren
    },
    'DELETE /api/visits/[visit]/letters/[letter]': { body: {}, may: allButWren },
    'POST /api/printers': { body: { name: 'Front desk', acrossMm: 99, downMm: 100 }, may: allButWren },
    'DELETE /api/printers/[printer]': { body: {}, may: allButWren },
    'GET /api/pictures/[picture]/preview': { query: '?seq=0&turn=0' },
    'GET /api/visits/[visit]': {},
    'GET /api/visits/[visit]/deliveries': {},
    'GET /api/visits/[visit]/trays': {},
    'GET /api/visits/[visit]/story': {},
    'POST /api/visits/[visit]/story': { body: { part: 'reason', body: 'Why' }, may: allButWren },
    'POST /api/visits/[visit]/papers': { body: {}, query: '?name=a.pdf', may: allButWren },
    'POST /api/visits/[visit]/papers/send': {
      body: { destinationId: nothing, paperIds: [nothing], words: '', warned: true },
      may: allButWren
    },
    'GET /api/papers/[paper]': {},
    'POST /api/papers/[paper]': { body: { kind: 'put away' }, may: allButWren },
    'POST /api/patients/[patient]/join': {
      body: { otherId: nothing, reason: 'entered twice' },
      may: ['orsin', 'dell', 'wren']
    },
    'POST /api/joinings/[joining]/part': { body: { reason: 'two people' }, may: ['orsin', 'dell', 'wren'] },
    'POST /api/deliveries/[delivery]': { body: {}, may: allButWren },
    'POST /api/devices/[device]': { body: { kind: 'rest' }, may: chairside },
    'POST /api/enrolments': { body: { roomId: nothing, replaces: null }, may: wren },
    'POST /api/links': {
      body: { links: [{ pictureId, places: [{ kind: 'tooth', tooth: 11 }] }] },
      may: allButWren
    },
    'POST /api/markers': { body: { name: 'Pin', sizeMm: 2, toleranceMm: 0.1 }, may: wren },
    'DELETE /api/markers/[marker]': { body: {}, may: wren },
    'GET /api/arrivals': {},
    'GET /api/arrivals/[arrival]/shown': {},
    'GET /api/arrivals/[arrival]/file': {},
    'GET /api/arrivals/bundles/[bundle]': {},
    'GET /api/arrivals/bundles/[bundle]/whose': {},
    'POST /api/arrivals/sort': { body: { kind: 'put-away', arrivalIds: [nothing] }, may: allButWren },
    'POST /api/arrivals/send-back': {
      body: { arrivalIds: [nothing], words: 'Whose is it?' },
      may: allButWren
    },
    'POST /api/arrivals/give': {
      body: { to: { visitId: nothing }, each: [{ arrivalId: nothing }] },
      may: allButWren
    },
    'POST /api/intakes': { body: { name: 'A disc', said: 1 }, may: allButWren },
    'GET /api/intakes/[intake]': {},
    'POST /api/intakes/[intake]': { body: { kind: 'end' }, may: allButWren },
    'POST /api/intakes/[intake]/files': { body: {}, query: '?path=a.dcm', may: allButWren },
    'POST /api/intakes/[intake]/heads': { body: {}, may: allButWren },
    'POST /api/intakes/[intake]/known': { body: {}, may: allButWren },
    'GET /api/intakes/folders': { may: allButWren },
    'POST /api/intakes/folders': { body: { folder: '/nowhere' }, may: [] },
    'GET /api/mail-address': {},
    'POST /api/senders': { body: { kind: 'web', name: 'A system' }, may: wren },
    'DELETE /api/senders/[sender]': { body: {}, may: wren },
    'POST /api/read-folders': { body: { folders: [] }, may: wren },
    'GET /api/patients/[patient]/visits': {},
    'DELETE /api/phones/[phone]': { body: {} },
    'POST /api/practice': { body: { name: 'Desk', url: 'http://127.0.0.1:9' }, may: wren },
    'DELETE /api/practice': { body: {}, may: wren },
    'POST /api/practice/try': { body: { url: 'http://127.0.0.1:9' }, may: wren },
    'POST /api/phones': { body: { hours: 1 }, may: allButWren },
    'POST /api/pictures/[picture]/move': {
      body: { visitId: nothing, reason: 'the wrong one' },
      may: chairside
    },
    'POST /api/pictures/[picture]/acts': {
      body: { changes: [{ kind: 'look', item: null, body: null }] },
      may: chairside
    },
    'POST /api/patients': {
      body: { patient: { kind: 'person', givenName: 'A', familyName: 'B', birthDate: '2000-01-01' } },
      may: allButWren
    },
    'POST /api/patients/doubles': {
      body: { kind: 'person', givenName: 'A', familyName: 'B', birthDate: '2000-01-01' },
      may: allButWren
    },
    'POST /api/patterns': {
      body: {
        of: nothing,
        name: 'P',
        trade: 'teeth',
        slots: fourBitewings.pattern.slots,
        order: fourBitewings.route.order
      },
      may: allButDell
    },
    'POST /api/patterns/[pattern]': { body: { retired: true }, may: allButDell },
    'POST /api/routes': { body: { pattern: ref, order: null }, may: chairside },
    'POST /api/rooms/[room]': {
      body: { name: 'Teeth', usualPattern: null, opensArmed: false, pedal: {} },
      may: wren
    },
    'DELETE /api/rooms/[room]': { body: {}, may: wren },
    'POST /api/print-layouts': {
      body: { layoutId: nothing, layout: plainLayout('Ours') },
      may: allButDell
    },
    'DELETE /api/print-layouts/[layout]': { body: {}, may: allButDell },
    'POST /api/rooms': { body: { name: `Room ${Math.random()}`, trade: 'eyes' }, may: wren },
    'POST /api/devices/[device]/settings': { body: { act: 'retire' }, may: wren },
    'POST /api/pictures/[picture]/not-so': { body: { kind: 'moved', denied: true }, may: chairside },
    'POST /api/visits/[visit]/once': { body: { slots: fourBitewings.pattern.slots }, may: chairside },
    'POST /api/pictures/[picture]/told': { body: {}, may: chairside },
    'POST /api/pictures/[picture]/bring-back': { body: {}, may: chairside },
    'POST /api/pictures/[picture]/no-lettering': { body: {}, may: allButWren },
    'POST /api/pictures/[picture]/said': { body: { tag: '00101030', text: '3' }, may: allButWren },
    'POST /api/pictures/[picture]/take-back': { body: {}, may: chairside },
    'POST /api/trays/[tray]': { body: { kind: 'anchor-lifted' }, may: chairside },
    'POST /api/visits': { body: { patientId, roomId: nothing }, may: chairside },
    'POST /api/visits/[visit]/files': { body: {}, query: '?name=a.png', may: allButWren },
    'POST /api/visits/[visit]/leaving': { body: { pictureIds: [pictureId] }, may: allButWren },
    'POST /api/visits/[visit]/parcels': {
      body: { destinationId: nothing, identity: 'identified', pictureIds: [pictureId] },
      may: allButWren
    },
    'POST /api/pictures/[picture]/veils': {
      body: { veils: { veils: [], only: null, looked: true } },
      may: allButWren
    },
    'GET /api/pictures/[picture]/writing': { may: allButWren },
    'POST /api/visits/close': {
      body: { visitIds: [visitId], how: 'open again' },
      may: allButWren
    },
    'GET /api/rules': {},
    'POST /api/rules': { body: { name: 'Ours', rule: usualRule }, may: wren },
    'DELETE /api/rules/[rule]': { body: {}, may: wren },
    'POST /api/pseudonyms': { body: { pseudonym: 'YT-NOBODY' }, may: wren },
    'GET /api/cases': {},
    'POST /api/cases': {
      body: { pictureIds: [nothing], ruleId: null, words: caseOf('A case') },
      may: allButWren
    },
    'GET /api/cases/[case]': {},
    'POST /api/cases/[case]': { body: { act: 'again' }, may: allButWren },
    'DELETE /api/cases/[case]': { body: {}, may: allButWren },
    'GET /api/cases/[case]/files/[file]': {},
    'GET /api/cases/[case]/package': { may: allButWren },
    'POST /api/pictures/[picture]/veiled-copy': { body: {}, may: allButWren },
    'GET /api/destinations': {},
    'POST /api/destinations': {
      body: { name: 'A colleague', settings: plainDestination({ kind: 'mail', to: 'a@b.example' }) },
      may: wren
    },
    'DELETE /api/destinations/[destination]': { body: {}, may: wren },
    'POST /api/destinations/[destination]/try': { body: {}, may: wren },
    'GET /api/dispatch': {},
    'POST /api/parcels': {
      body: { destinationId: nothing, identity: 'identified', pictureIds: [pictureId] },
      may: allButWren
    },
    'GET /api/parcels/[parcel]': {},
    'POST /api/parcels/[parcel]': { body: { act: 'hold' }, may: allButWren },
    'GET /api/parcels/[parcel]/file': { may: allButWren },
    'POST /api/visits/[visit]/trays': { body: { pattern: ref, route: ref }, may: chairside }
  });
  const parts = (): Record<string, string> => ({
    patient: patientId,
    picture: pictureId,
    visit: visitId,
    tray: trayId,
    level: '1',
    delivery: nothing,
    parcel: nothing,
    rule: nothing,
    case: nothing,
    file: nothing,
    destination: nothing,
    device: nothing,
    phone: nothing,
    marker: nothing,
    printer: nothing,
    layout: nothing,
    colleague: nothing,
    person: nothing,
    line: '999999',
    template: nothing,
    letter: nothing,
    look: nothing,
    guide: nothing,
    arrival: nothing,
    category: nothing,
    bundle: nothing,
    intake: nothing,
    sender: nothing,
    joining: nothing,
    pattern: nothing,
    room: nothing
  });

  /** All that the program answers, read off its own folders. */
  function routes(under: string): Route[] {
    const files = fs.readdirSync('src/routes', { recursive: true, encoding: 'utf8' });
    return files
      .filter((file) => file.startsWith(under) && file.endsWith('+server.ts'))
      .flatMap((file) => {
        const route = `/${path.dirname(file)}`;
        const where = route.replace(/\[(\w+)\]/g, (_, name: string) => parts()[name]);
        const text = fs.readFileSync(path.join('src/routes', file), 'utf8');
        return [...text.matchAll(/export const (GET|POST|PUT|PATCH|DELETE)\b/g)].map(([, method]) => ({
          method,
          route,
          where
        }));
      });
  }
  const allRoutes = () =>
    routes('api').map((each) => ({ ...each, ...asked()[`${each.method} ${each.route}`] }));
  const ask = (who: Asking, { method, where, query = '', body }: Route & Asked) =>
    method === 'GET' ? who.get(where + query) : who.send(method, where + query, body ?? {});

  it('stands in the list of what is asked here, and nothing else does', () => {
    const all = routes('api').map(({ method, route }) => `${method} ${route}`);
    expect(all.sort()).toEqual(Object.keys(asked()).sort());
  });

  it('is closed to nobody, and pages lead to signing in', async () => {
    const nobody = Asking.nobody(clinic);
    for (const each of allRoutes()) expect((await ask(nobody, each)).status, each.route).toBe(401);
    for (const where of views()) {
      const { status, location } = await nobody.get(where);
      expect([status, location?.split('?')[0]], where).toEqual([303, '/sign-in']);
    }
    for (const each of routes('device'))
      expect((await ask(nobody, each)).status, each.route).toBeGreaterThanOrEqual(400);
    expect((await nobody.get('/device/v1/instructions')).status).toBe(401);
    expect((await nobody.send('PUT', '/device/v1/lamp', { lamp: 'ready' })).status).toBe(401);
  });

  it('shows another clinic nothing and takes nothing from it', async () => {
    const stranger = await Asking.as(clinic, 'tamsin', otherPassword);
    const ofThings = (each: Route & Asked) =>
      each.route.includes('[') || each.route === '/api/links' || each.route === '/api/visits';
    for (const each of allRoutes().filter(ofThings)) {
      const { status } = await ask(stranger, each);
      // What a clinician may not do anywhere is refused before it is looked for.
      const mayNot = each.may && !each.may.includes('orsin');
      expect(status, `${each.method} ${each.route}`).toBe(mayNot ? 403 : 404);
    }
    for (const where of views().slice(1, -12)) expect((await stranger.get(where)).status, where).toBe(404);
  });

  it('lets each role do what it may, and nothing else', async () => {
    const confirm = { kind: 'confirmation-withdrawn', slotId: 'bw-right-molars' };
    const all: (Route & Asked)[] = [
      ...allRoutes().filter(({ route }) => route !== '/api/news'),
      {
        method: 'POST',
        route: 'confirming',
        where: `/api/trays/${trayId}`,
        body: confirm,
        may: ['orsin']
      },
      { method: 'GET', route: 'the audit', where: '/audit', may: wren }
    ];
    for (const who of ['mara', 'orsin', 'dell', 'wren'] as const) {
      const asking = await Asking.as(clinic, who, password);
      for (const each of all) {
        const { status } = await ask(asking, each);
        const may = each.may?.includes(who) ?? true;
        expect(status === 403, `${who}, ${each.method} ${each.route}: ${status}`).toBe(!may);
        expect(status, `${who}, ${each.method} ${each.route}`).toBeLessThan(500);
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
