import { beforeAll, describe, expect, it } from 'vitest';
import type { CorneaWish } from '../core/phantom/eye/cornea';
import { type EyeFault, type EyeTake, eyeTake, nineGazes } from '../core/phantom/scenes/eyeTakes';
import { quillTarget } from '../core/cornea/target';
import type { Progress } from '../core/longWork';
import { Corneas, type TakeSaid, sheetKey } from './corneas';

const shape: CorneaWish = { flatMm: 7.9, steepMm: 7.6, axisDeg: 30, q: -0.2 };
const takeOf = (gaze: number, fault?: EyeFault) =>
  eyeTake(shape, nineGazes[gaze], quillTarget, 40 + gaze, { fault });
const gazes = [0, 1, 2, 3, 4];
const takes = gazes.map((gaze) => takeOf(gaze));

const readInto = (corneas: Corneas, key: string, take: EyeTake, told?: (progress: Progress) => void) =>
  corneas.read(key, take, told);

describe('takes as they come in', () => {
  const corneas = new Corneas();
  const said: TakeSaid[] = [];
  const rounds: Progress[] = [];
  beforeAll(async () => {
    for (const gaze of gazes)
      said.push(await readInto(corneas, `g${gaze}`, takes[gaze], (progress) => rounds.push(progress)));
  });

  it('tell how good they are, and how far the reading is after each of its rounds', () => {
    for (const each of said) {
      expect(each.outcome === 'read' && each.converged && each.quality.percent).toBeGreaterThan(70);
      expect(each.outcome === 'read' && each.rmsUm).toBeLessThan(0.2);
    }
    expect(rounds.filter(({ done }) => done === 1)).toHaveLength(gazes.length);
    for (const [i, { done, of }] of rounds.entries()) {
      expect(done).toBeLessThanOrEqual(of);
      if (done > 1) expect(done).toBe(rounds[i - 1].done + 1);
    }
  });
  it('are joined to a sheet with its verdicts, coverage and advice, maps and values', async () => {
    const sheet = await corneas.join(gazes.map((gaze) => `g${gaze}`));
    expect(sheet.joined).toEqual(['g0', 'g1', 'g2', 'g3', 'g4']);
    expect(Object.values(sheet.verdicts).every(({ again }) => !again)).toBe(true);
    const missed = sheet.missing.reduce((sum, { share }) => sum + share, 0);
    expect(missed).toBeLessThanOrEqual(1 - sheet.coverage.share + 1e-9);
    const alone = corneas.map('g0', 'axial');
    const whole = corneas.map(sheetKey, 'axial');
    const seen = (values: Float64Array) => values.filter((value) => !Number.isNaN(value)).length;
    expect(seen(whole.values)).toBeGreaterThan(1.2 * seen(alone.values));
    const { keratometry, steepUncertaintyD, zernikeUm, lens } = corneas.values(sheetKey);
    // Where keratometry reads, 1.5 mm out, a conic's axial radius is the root of R^2 - Q r^2.
    expect(Math.abs(keratometry.steepMm - Math.sqrt(7.6 ** 2 + 0.2 * 1.5 ** 2))).toBeLessThan(0.01);
    expect(steepUncertaintyD).toBeLessThan(0.1);
    expect(zernikeUm).toHaveLength(28);
    expect(lens.sags.length).toBeGreaterThan(4);
    // Only what can cross to another thread may be said.
    expect(structuredClone({ sheet, whole, values: corneas.values(sheetKey) }).sheet.joined).toHaveLength(5);
  });
  it('a picture that gives nothing replaces no take, and a take read anew makes the old sheet void', async () => {
    const keys = ['g0', 'g1'];
    await corneas.join(keys);
    const read = await corneas.read('g1', takeOf(1, 'out of focus'));
    expect(read.outcome).toBe('not read');
    expect(corneas.map(sheetKey, 'axial').unit).toBe('D');
    await corneas.read('g1', takes[1]);
    expect(() => corneas.map(sheetKey, 'axial')).toThrow('have not been joined');
    expect((await corneas.join(keys)).joined).toEqual(keys);
    corneas.drop('g1');
    await expect(corneas.join(keys)).rejects.toThrow('“g1”');
  });
});

it('a quality comes without a surface: good ones, and in words what holds no eye', () => {
  const corneas = new Corneas();
  expect(corneas.quality(takes[0].raster)).toMatchObject({ description: 'Good.' });
  const grey = { ...takes[0].raster, data: new Uint8Array(takes[0].raster.data.length).fill(80) };
  expect(corneas.quality(grey)).toMatchObject({ because: expect.stringContaining('No rings') });
});

describe('stopping', () => {
  it('ends what is being read or joined, and leaves what was read before', async () => {
    const corneas = new Corneas();
    for (const gaze of gazes.slice(0, 3)) await corneas.read(`g${gaze}`, takes[gaze]);
    let rounds = 0;
    const stopAfterTwo = () => {
      if (++rounds === 2) corneas.stop();
    };
    await expect(corneas.read('g3', takes[3], stopAfterTwo)).rejects.toThrow('Stopped before it was done');
    expect(rounds).toBe(2);
    rounds = 0;
    const keys = ['g0', 'g1', 'g2'];
    await expect(corneas.join(keys, stopAfterTwo)).rejects.toThrow('Stopped before it was done');
    expect(rounds).toBe(2);
    expect((await corneas.join(keys)).joined).toEqual(keys);
    await expect(corneas.join([...keys, 'g3'])).rejects.toThrow('“g3”');
  });
  it('can be asked for while the work goes on, for it leaves turns to others', async () => {
    const corneas = new Corneas();
    const reading = corneas.read('g0', takes[0]);
    setTimeout(() => corneas.stop(), 0);
    await expect(reading).rejects.toThrow('Stopped');
    expect(await corneas.read('g0', takes[0])).toMatchObject({ outcome: 'read' });
  });
});

it('a sheet of takes that changed while they were joined is not kept, and no take is called as the sheet is', async () => {
  const corneas = new Corneas();
  const keys = ['g0', 'g1'];
  for (const gaze of [0, 1]) await corneas.read(`g${gaze}`, takes[gaze]);
  const joining = corneas.join(keys, ({ done }) => {
    if (done === 1) corneas.drop('g1');
  });
  await expect(joining).rejects.toThrow('join them again');
  expect(() => corneas.map(sheetKey, 'axial')).toThrow('have not been joined');
  await expect(corneas.read(sheetKey, takes[0])).rejects.toThrow('not a take');
});
