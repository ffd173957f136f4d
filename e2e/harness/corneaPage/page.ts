import { proxy, wrap } from 'comlink';
import type { EyePicture, Corneas } from '../../../src/lib/workers/corneas';
import type { Progress } from '../../../src/lib/core/longWork';

const worker = new Worker(new URL('../../../src/lib/workers/corneas.worker.ts', import.meta.url), {
  type: 'module'
});
const corneas = wrap<Corneas>(worker);

/** Turns that the page's own thread has had. */
let turns = 0;
setInterval(() => turns++, 10);

async function pictureOf(name: string): Promise<EyePicture> {
  const [about, samples] = await Promise.all([fetch(`/${name}.json`), fetch(`/${name}.raw`)]);
  const { raster, ...rest } = await about.json();
  return { ...rest, raster: { ...raster, data: new Uint8Array(await samples.arrayBuffer()) } };
}

/** What a test asks of the page; each answer can cross to the test. */
const asked = {
  async read(name: string) {
    const picture = await pictureOf(name);
    const before = turns;
    const rounds: Progress[] = [];
    const said = await corneas.read(
      name,
      picture,
      proxy((progress: Progress) => void rounds.push(progress))
    );
    return { said, rounds, turns: turns - before };
  },
  async join(names: string[], stopAfter = Infinity) {
    let rounds = 0;
    const told = proxy(() => {
      if (++rounds === stopAfter) void corneas.stop();
    });
    try {
      const { joined, coverage } = await corneas.join(names, told);
      return { joined, share: coverage.share, rounds };
    } catch (error) {
      return { name: (error as Error).name, message: (error as Error).message, rounds };
    }
  },
  async map(key: string) {
    const { values, side, unit } = await corneas.map(key, 'axial', { stepMm: 0.5 });
    return { side, unit, values: [...values].map((value) => (Number.isNaN(value) ? null : value)) };
  }
};
export type Asked = typeof asked;

Object.assign(window, { asked });
