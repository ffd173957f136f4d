import { describe, expect, it } from 'vitest';
import { zipStream } from './zipStream';

const large = 300_000;
const file = (name: number) => ({ path: `${name}.png`, bytes: new Uint8Array(large).fill(name) });

describe('a ZIP that is made while it is fetched', () => {
  it('asks for no more once whoever fetches is gone, and lets go of what makes the files', async () => {
    let [asked, letGo] = [0, false];
    const ended: string[] = [];
    async function* files() {
      try {
        for (;;) yield file(++asked);
      } finally {
        letGo = true;
      }
    }
    const told = (how: string) => async () => void ended.push(how);
    const reader = zipStream(files(), { taken: told('taken'), left: told('left') }).getReader();
    while ((await reader.read()).value!.length < large / 10) continue;
    await reader.cancel();
    await expect.poll(() => letGo).toBe(true);
    await expect.poll(() => ended).toEqual(['left']);
    expect(asked).toBeLessThan(6);
  });

  it('makes a file only once the one before was taken: a slow line holds no memory', async () => {
    let asked = 0;
    async function* files() {
      for (; asked < 50;) yield file(++asked);
    }
    const stream = zipStream(files());
    await new Promise((done) => setTimeout(done, 100));
    expect(asked).toBeLessThan(6);
    expect((await new Response(stream).arrayBuffer()).byteLength).toBeGreaterThan(50 * large);
  });

  it('lets go of every file that was taken, however many there are', async () => {
    const [count, bytes] = [80, 4_000_000];
    async function* files() {
      for (let i = 0; i < count; i++) yield { path: `${i}.png`, bytes: new Uint8Array(bytes).fill(i) };
    }
    const before = process.memoryUsage().arrayBuffers;
    let [size, most] = [0, 0];
    for await (const chunk of zipStream(files())) {
      size += chunk.length;
      most = Math.max(most, process.memoryUsage().arrayBuffers - before);
    }
    expect(size).toBeGreaterThan(count * bytes);
    expect(most).toBeLessThan((count * bytes) / 2);
  });
});
