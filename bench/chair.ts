import { password } from '../demo/clinic';
import { Asking } from '../e2e/harness/asking';
import { Browser } from '../e2e/harness/browser';
import type { RunningClinic } from '../e2e/harness/running';
import type { Truth } from './measuring';
import { type Row, median, times } from './report';

const togetherRounds = 40;
const coldRounds = 8;
const seenWithinMs = 500;
const pause = (ms: number) => new Promise((done) => setTimeout(done, ms));

/** Writes when each well came to be the next one, on the clock that all pages of this machine share. */
const watchWells = `
  window.nexts = [];
  const note = () => {
    const next = document.querySelector('[data-testid^="well-"][data-state="next"]')?.dataset.testid;
    if (next && next !== window.nexts.at(-1)?.well) window.nexts.push({ well: next, at: Date.now() });
  };
  new MutationObserver(note).observe(document.body, { subtree: true, childList: true, attributes: true, attributeFilter: ['data-state'] });
  note();
`;
const seenAt = (browser: Browser, well: string, since: number) =>
  browser.run<number | null>(
    'return window.nexts.find(({ well, at }) => well === arguments[0] && at >= arguments[1])?.at ?? null',
    well,
    since
  );

/** Two people look at one tray: how long until what the one does is before the other's eyes. */
export async function benchTogether(clinic: RunningClinic): Promise<{ row: Row; truth: Truth }> {
  const [one, other] = [await Browser.open(clinic.origin), await Browser.open(clinic.origin)];
  try {
    await one.signIn('mara', password);
    await other.signIn('orsin', password);
    await one.click('[data-record=QS-1004]');
    await one.find('[data-testid=next-slot]');
    const where = new URL(await one.driver.getCurrentUrl()).pathname;
    await other.go(where);
    for (const browser of [one, other]) {
      await browser.untilLive();
      await browser.run(watchWells);
    }
    const wells = await one.run<string[]>(
      `return [...document.querySelectorAll('[data-testid^="well-bw"]')].map((well) => well.dataset.testid)`
    );
    const took: number[] = [];
    for (let round = 0; round < togetherRounds; round++) {
      const well = wells[(round + 1) % wells.length];
      const since = await one.run<number>(
        `const at = Date.now(); document.querySelector('[data-testid="' + arguments[0] + '"]').click(); return at`,
        well
      );
      await other.until('the other sees it', async () => (await seenAt(other, well, since)) !== null);
      took.push((await seenAt(other, well, since))! - since);
      await one.untilKept();
      await pause(150);
    }
    const asking = await Asking.as(clinic, 'mara', password);
    const [{ tray_id }] = await clinic.rows<{ tray_id: string }>(
      `select tray_id from tray where visit_id = '${/visits\/([0-9a-f-]+)/.exec(where)![1]}'`
    );
    const asked = await times(togetherRounds, (i) =>
      asking.send('POST', `/api/trays/${tray_id}`, {
        kind: 'slot-chosen',
        slotId: wells[i % wells.length].replace('well-', '')
      })
    );
    return {
      row: {
        name: 'What one does to a tray, until the other sees it',
        oursMs: median(took),
        reference: 'the same asked of the server and answered',
        referenceMs: median(asked),
        limit: Infinity,
        note: `the slowest ${Math.max(...took).toFixed(0)} ms`
      },
      truth: {
        name: `Seen by the other within half a second`,
        right: took.filter((ms) => ms <= seenWithinMs).length,
        of: took.length,
        must: 1
      }
    };
  } finally {
    await one.close();
    await other.close();
  }
}

/** Writes when the first picture could be seen at all, when one stood on the stage, and when the last small one had come. */
const watchSeries = `
  window.series = { seen: null, first: null, last: null };
  // As the browser says that it painted it, whatever else the page is busy with.
  new PerformanceObserver((list) => {
    const painted = list.getEntries().find(({ url }) => url.includes('/preview'));
    if (painted) series.seen ??= painted.renderTime || painted.loadTime;
  }).observe({ type: 'largest-contentful-paint', buffered: true });
  const look = () => {
    const stage = document.querySelector('[data-testid=stage]');
    if (series.first === null && stage?.dataset.picture) series.first = performance.now();
    const small = [...document.querySelectorAll('[data-testid=small]')];
    if (small.length > 1 && small.every((each) => each.complete && each.naturalWidth > 0)) series.last ??= performance.now();
    if (series.first === null || series.last === null) requestAnimationFrame(look);
  };
  requestAnimationFrame(look);
`;

/** A full-mouth visit opened in a browser that holds nothing: to the first picture and to the last one. */
export async function benchColdSeries(clinic: RunningClinic, browser: Browser): Promise<Row[]> {
  const [{ visit_id: visit, count }] = await clinic.rows<{ visit_id: string; count: string }>(
    'select visit_id, count(*) as count from picture group by 1 order by 2 desc limit 1'
  );
  const { driver } = browser;
  const clear = () => driver.sendDevToolsCommand('Network.clearBrowserCache', {});
  const [seen, first, last, bytes]: number[][] = [[], [], [], []];
  for (let round = 0; round <= coldRounds; round++) {
    await driver.get('about:blank');
    await clear();
    const added = (await driver.sendAndGetDevToolsCommand('Page.addScriptToEvaluateOnNewDocument', {
      source: watchSeries
    })) as unknown as { identifier: string };
    await browser.go(`/visits/${visit}/acquire`);
    await browser.until('the whole series is there', () =>
      browser.run('return Object.values(window.series).every((at) => at !== null)')
    );
    const took = await browser.run<Record<'seen' | 'first' | 'last', number>>('return window.series');
    const fetched = await browser.run<string[]>(
      `return performance.getEntriesByType('resource').map(({ name }) => name).filter((name) => name.includes('/api/pictures/'))`
    );
    await driver.sendDevToolsCommand('Page.removeScriptToEvaluateOnNewDocument', added);
    await browser.go('/mark.svg');
    await clear();
    const same = await driver.executeAsyncScript<number>(
      `const done = arguments[1]; const start = performance.now();
       Promise.all(arguments[0].map((url) => fetch(url, { cache: 'no-store' }).then((answer) => answer.arrayBuffer())))
         .then(() => done(performance.now() - start))`,
      fetched
    );
    // The first round makes what is made once for all: small pictures, and the server's own memory.
    if (round === 0) continue;
    seen.push(took.seen);
    first.push(took.first);
    last.push(took.last);
    bytes.push(same);
  }
  const reference = 'the same bytes fetched by a bare page';
  const row = (name: string, values: number[], limit = Infinity): Row => ({
    name: `A series of ${count} from a cold page, to the ${name}`,
    oursMs: median(values),
    reference,
    referenceMs: median(bytes),
    limit
  });
  return [
    row('first picture that can be recognised', seen, 2),
    row('first on the stage in full', first),
    row('last small picture', last)
  ];
}
