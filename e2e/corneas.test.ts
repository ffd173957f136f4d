import fs from 'node:fs';
import http from 'node:http';
import type { AddressInfo } from 'node:net';
import os from 'node:os';
import path from 'node:path';
import { build } from 'vite';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { corneaMap } from '../src/lib/core/cornea/corneaMap';
import { joined } from '../src/lib/core/cornea/join';
import { sheetCornea } from '../src/lib/core/cornea/measured';
import { readTake } from '../src/lib/core/cornea/readTake';
import { quillTarget as target } from '../src/lib/core/cornea/target';
import { eyeTake, nineGazes } from '../src/lib/core/phantom/scenes/eyeTakes';
import { Browser } from './harness/browser';
import type { Asked } from './harness/corneaPage/page';

const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-corneas-'));
const shape = { flatMm: 7.9, steepMm: 7.55, axisDeg: 70, q: -0.25 };
const takes = nineGazes.slice(0, 3).map((gaze, i) => eyeTake(shape, gaze, target, 300 + i));
const names = takes.map((_, i) => `take${i}`);
const types: Record<string, string> = { '.html': 'text/html', '.js': 'text/javascript' };
let server: http.Server;
let browser: Browser;

/** The page with the worker, bundled as for the application, and the pictures beside it. */
beforeAll(async () => {
  await build({
    configFile: false,
    logLevel: 'error',
    root: path.resolve('e2e/harness/corneaPage'),
    worker: { format: 'es' },
    build: { outDir: folder, emptyOutDir: true, target: 'es2022' }
  });
  takes.forEach(({ raster: { data, ...raster }, gazeRightDeg, gazeUpDeg, range }, i) => {
    fs.writeFileSync(path.join(folder, `${names[i]}.raw`), data);
    const about = JSON.stringify({ raster, gazeRightDeg, gazeUpDeg, range });
    fs.writeFileSync(path.join(folder, `${names[i]}.json`), about);
  });
  server = http.createServer((request, answer) => {
    const file = path.join(folder, request.url === '/' ? 'index.html' : path.normalize(request.url!));
    if (!file.startsWith(folder) || !fs.existsSync(file)) return void answer.writeHead(404).end();
    answer.writeHead(200, { 'content-type': types[path.extname(file)] ?? 'application/octet-stream' });
    fs.createReadStream(file).pipe(answer);
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  browser = await Browser.open(`http://127.0.0.1:${(server.address() as AddressInfo).port}`);
  await browser.go('/');
  await browser.until('the page is there', () => browser.run('return "asked" in window'));
});
afterAll(async () => {
  await browser?.close();
  server?.close();
  fs.rmSync(folder, { recursive: true, force: true });
});

const ask = <K extends keyof Asked>(what: K, ...args: Parameters<Asked[K]>) =>
  browser.run<Awaited<ReturnType<Asked[K]>>>(
    'return window.asked[arguments[0]](...arguments[1])',
    what,
    args
  );

it('a worker reads and joins takes as the core does, says how far it is, and is stopped without losing a take', async () => {
  const reads = takes.map(({ raster, range }) => readTake(raster, target, range));
  for (const [i, name] of names.entries()) {
    const { said, rounds, turns } = await ask('read', name);
    const read = reads[i];
    if (read.outcome !== 'read' || said.outcome !== 'read') throw new Error('a good take was not read');
    expect(said.rmsUm).toBeCloseTo(read.fit.rmsUm, 9);
    expect(said.quality).toEqual(read.quality);
    expect(rounds.map(({ done }) => done)).toEqual(
      Array.from({ length: read.fit.iterations }, (_, k) => k + 1)
    );
    // The page went on meanwhile.
    expect(turns).toBeGreaterThan(2);
  }
  expect(await ask('join', names, 1)).toMatchObject({ message: 'Stopped before it was done.' });
  const whole = await ask('join', names);
  expect(whole).toMatchObject({ joined: names });

  const toJoin = reads.map((read, i) => {
    if (read.outcome !== 'read') throw new Error(read.because);
    const { gazeRightDeg, gazeUpDeg } = takes[i];
    return { fit: read.fit, gazeRightDeg, gazeUpDeg };
  });
  const computed = corneaMap(sheetCornea(joined(toJoin, target), toJoin), 'axial', { stepMm: 0.5 });
  const map = await ask('map', 'sheet');
  expect(map.side).toBe(computed.side);
  expect(map.values.filter((value) => value !== null).length).toBeGreaterThan(250);
  map.values.forEach((value, i) => {
    if (value === null) expect(computed.values[i]).toBeNaN();
    else expect(value).toBeCloseTo(computed.values[i], 6);
  });
  expect(await ask('join', ['take0', 'another'])).toMatchObject({
    message: 'no take “another” has been read'
  });
});
