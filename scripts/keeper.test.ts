import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { keepRunning, openLog, runNode } from './keeper.mjs';

const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-keeper-'));
afterAll(() => fs.rmSync(folder, { recursive: true, force: true }));
const pause = (ms: number) => new Promise((done) => setTimeout(done, ms));
const modeOf = (file: string) => fs.statSync(file).mode & 0o777;

async function until(holds: () => boolean, what: string): Promise<void> {
  for (let i = 0; i < 400; i++) {
    if (holds()) return;
    await pause(25);
  }
  throw new Error(`never: ${what}`);
}

describe('what the launcher keeps running', () => {
  it('is started again when it dies, with growing pauses, and stays down when it is stopped', async () => {
    const said: string[] = [];
    const starts: number[] = [];
    const log = openLog(folder, 'short');
    const kept = await keepRunning(
      'The server',
      () => {
        starts.push(Date.now());
        return runNode(folder, ['-e', 'console.log("up"); setInterval(() => {}, 1000)'], {}, log);
      },
      (words) => said.push(words),
      { firstPauseMs: 40 }
    );
    for (let i = 1; i <= 3; i++) {
      const { pid } = kept.present() as unknown as { pid: number };
      process.kill(pid, 'SIGKILL');
      await until(() => starts.length === i + 1 && kept.present() !== null, `start ${i + 1}`);
    }
    const gaps = starts.slice(1).map((at, i) => at - starts[i]);
    expect(gaps[2]).toBeGreaterThan(160);
    expect(said).toHaveLength(3);
    expect(said[0]).toMatch(/^The server stopped by itself. It is started again/);
    await kept.stop();
    await pause(300);
    expect(starts).toHaveLength(4);
  });

  it('is tried again when it can’t be started, and its first start fails for whoever waits', async () => {
    await expect(
      keepRunning(
        'X',
        () => Promise.reject(new Error('no disk')),
        () => {}
      )
    ).rejects.toThrow('no disk');
    let starts = 0;
    const end: (() => void)[] = [];
    const kept = await keepRunning(
      'X',
      async () => {
        if (++starts === 2) throw new Error('not yet');
        return { exited: new Promise<void>((done) => end.push(done)), stop: async () => end.at(-1)!() };
      },
      () => {},
      { firstPauseMs: 10 }
    );
    end[0]();
    await until(() => starts === 3, 'a third start');
    await kept.stop();
  });
});

describe('logs', () => {
  it('are for us alone, also those that were open to all, and never grow past a few megabytes', async () => {
    fs.writeFileSync(path.join(folder, 'long.log'), 'older words\n', { mode: 0o644 });
    const log = openLog(folder, 'long');
    const line = `${'x'.repeat(99_999)}\n`;
    for (let i = 0; i < 260; i++)
      if (!log.write(line)) await new Promise<void>((done) => log.once('drain', () => done()));
    await new Promise<void>((done) => log.end(() => done()));
    await pause(200);
    const files = fs.readdirSync(folder).filter((name) => name.startsWith('long.log'));
    const size = files.reduce((sum, name) => sum + fs.statSync(path.join(folder, name)).size, 0);
    expect(files.length).toBeGreaterThan(1);
    expect(size).toBeLessThan(17e6);
    for (const name of files) expect(modeOf(path.join(folder, name)), name).toBe(0o600);
  });
});
