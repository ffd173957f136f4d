import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { parse } from 'csv-parse/sync';
import sharp from 'sharp';
import { afterAll, describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { lookOf } from '../../core/picture/pictureView';
import { windowLook } from '../../core/raster/look/look';
import { upright } from '../../core/raster/orientation';
import { actWish, keepAct, pictureSeen, takeBack } from '../pictures/changes';
import { readOnto } from '../pictures/readOnto';
import { stopProcesses } from '../work/processes';
import { type OutKind, outWish, readingsOut, takeOut } from './takenOut';

const clinic = useClinic();
const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-out-'));
afterAll(async () => {
  await stopProcesses();
  fs.rmSync(folder, { recursive: true, force: true });
});

const [width, height] = [120, 80];
/** From left to right ever brighter; the upper left corner is marked. */
const samples = Uint16Array.from({ length: width * height }, (_, i) =>
  i % width < 10 && i < 10 * width ? 65535 : (i % width) * 400
);

async function picture() {
  const visitId = await clinic.newVisit();
  const bytes = await sharp(samples, { raw: { width, height, channels: 1 } })
    .toColourspace('grey16')
    .png()
    .toBuffer();
  const pictureId = await clinic.bring(visitId, '=Upper left, "new".png', bytes);
  const act = (...changes: object[]) =>
    keepAct(clinic.caller(), pictureId, randomUUID(), actWish.parse({ changes }));
  return { visitId, pictureId, act };
}
const at = (x: number, y: number) => ({ x, y, uncertaintyPx: 0.5 });
const length = { kind: 'length', item: 'length-one', body: { ends: [at(10, 60), at(110, 60)] } };
const scale = {
  kind: 'scale',
  item: null,
  body: { from: 'line', ends: [at(0, 10), at(100, 10)], knownMm: 20, knownUncertaintyMm: 0.1, aspect: 1 }
};
const out = (pictureId: string, as: OutKind, more: object = {}) =>
  takeOut(clinic.caller(), pictureId, outWish.parse({ as, ...more }));

async function pixels(bytes: Uint8Array) {
  const { data, info } = await sharp(bytes).greyscale().raw().toBuffer({ resolveWithObject: true });
  return { ...info, at: (x: number, y: number) => data[(y * info.width + x) * info.channels] };
}
function checked(name: string, bytes: Uint8Array, tool: string): string {
  const file = path.join(folder, name);
  fs.writeFileSync(file, bytes);
  // Both write what they say to either place.
  return execFileSync('sh', ['-c', `${tool} "${file}" 2>&1 || true`]).toString();
}

describe('a picture as it is seen', () => {
  it('leaves turned and through its look, and at its own size', async () => {
    const { pictureId, act } = await picture();
    await act(
      { kind: 'look', item: null, body: windowLook({ center: 24000, width: 48000 }, true) },
      { kind: 'orientation', item: null, body: { quarterTurns: 1, mirrored: false } }
    );
    const { bytes, mediaType, fileName } = await out(pictureId, 'png');
    const seen = await pixels(bytes);
    expect([seen.width, seen.height, mediaType]).toEqual([height, width, 'image/png']);
    // What a file was called before may be somebody's name.
    expect(fileName).toMatch(/^picture-\d{4}-\d\d-\d\d\.png$/);
    // Turned clockwise the mark lies at the upper right, and inverted it is black; below it is ever darker.
    expect(seen.at(height - 3, 3)).toBe(0);
    expect(seen.at(20, 20)).toBeGreaterThan(seen.at(20, 100) + 100);
    const jpeg = await out(pictureId, 'jpeg');
    expect((await sharp(jpeg.bytes).metadata()).format).toBe('jpeg');
  });

  it('has its drawings where they lie, and a bar as long as it says', async () => {
    const { pictureId, act } = await picture();
    await act({ kind: 'look', item: null, body: windowLook({ center: 1e6, width: 10 }) }, length, scale);
    const channels = async (bytes: Uint8Array) => (await sharp(bytes).metadata()).channels;
    const undrawn = (await out(pictureId, 'png')).bytes;
    const plain = await pixels(undrawn);
    expect(plain.at(60, 60)).toBe(0);
    const withDrawings = (await out(pictureId, 'png', { drawings: 'yes', bar: 'yes' })).bytes;
    // A film has no colours, and its file none either; lines have.
    expect([await channels(undrawn), (await channels(withDrawings)) >= 3]).toEqual([1, true]);
    const drawn = await pixels(withDrawings);
    // A small picture is enlarged, so that words on it can be read.
    expect(drawn.width).toBe(900);
    const times = drawn.width / width;
    const bright = (x: number, y: number) => drawn.at(Math.round(x), Math.round(y)) > 100;
    expect(bright(60 * times, 60 * times)).toBe(true);
    expect(bright(60 * times, 50 * times)).toBe(false);
    expect(bright(5 * times, 60 * times)).toBe(false);
    // 120 pixels are 24 mm: a quarter of them holds a bar of 5 mm, which is 25 pixels.
    const row = drawn.height - 18;
    const lit = Array.from({ length: drawn.width }, (_, x) => x).filter((x) => bright(x, row));
    expect((lit.at(-1)! - lit[0]) / times).toBeCloseTo(25, 0);
  });

  it('is what a kept view kept, whatever became of the picture', async () => {
    const { pictureId, act } = await picture();
    const kept = {
      name: 'Mark',
      kind: 'detail',
      remark: '',
      keptAt: '2026-03-04T05:06:07.000Z',
      frame: 0,
      window: { left: 0, top: 0, width: 20, height: 16 },
      orientation: { quarterTurns: 0, mirrored: false },
      look: windowLook({ center: 32768, width: 65536 }),
      drawings: [],
      drawn: false,
      place: 0
    };
    await act({ kind: 'kept', item: 'kept-view-one', body: kept });
    await act({ kind: 'look', item: null, body: windowLook({ center: 1e6, width: 10 }) });
    const { bytes, fileName } = await out(pictureId, 'png', { kept: 'kept-view-one' });
    const seen = await pixels(bytes);
    expect([seen.width, seen.height, seen.at(4, 4)]).toEqual([20, 16, 255]);
    expect(seen.at(15, 12)).toBeLessThan(60);
    expect(fileName).toMatch(/^Mark-/);
    await expect(out(pictureId, 'png', { kept: 'kept-view-two' })).rejects.toMatchObject({ status: 404 });
  });
});

it('its samples leave as they were stored, with what a pixel measures', async () => {
  const { pictureId, act } = await picture();
  await act({ kind: 'look', item: null, body: windowLook({ center: 5, width: 10 }) }, scale);
  const { bytes } = await out(pictureId, 'tiff');
  const { data, info } = await sharp(bytes)
    .toColourspace('grey16')
    .raw({ depth: 'ushort' })
    .toBuffer({ resolveWithObject: true });
  expect([info.width, info.height, info.channels]).toEqual([width, height, 1]);
  expect(new Uint16Array(data.buffer, data.byteOffset, data.length / 2)).toEqual(samples);
  // 0.2 mm a pixel are 127 to the inch.
  expect((await sharp(bytes).metadata()).density).toBeCloseTo(127, 0);
});

describe('objects that tell how it was seen and measured', () => {
  it('are without a fault to an independent validator, and hold what the screen shows', async () => {
    const { pictureId, act } = await picture();
    await act(length, scale, { kind: 'arrow', item: 'arrow-one', body: { points: [at(5, 5), at(30, 40)] } });
    const state = await out(pictureId, 'presentation');
    expect(checked('state.dcm', state.bytes, 'dciodvfy')).not.toMatch(/^Error/m);
    expect(checked('state.dcm', state.bytes, 'dcmdump')).toMatch(/20\.\d+ .*mm/);
    const report = await out(pictureId, 'report');
    expect(checked('report.dcm', report.bytes, 'dciodvfy')).not.toMatch(/^Error/m);
    const told = checked('report.dcm', report.bytes, 'dsrdump');
    expect(Number(/NUM:\([^)]*"Length"\)="([\d.]+)"/.exec(told)?.[1])).toBeCloseTo(20, 6);
  });
  it('tell the look that a picture’s device opens it with, and the part that is shown', async () => {
    const { pictureId, act } = await picture();
    const opensWith = { from: 0.25, to: 0.75, steps: [{ kind: 'gamma', gamma: 1.5 }] };
    await clinic.owner.query('update picture set facts = facts || $2 where picture_id = $1', [
      pictureId,
      JSON.stringify({ opensWith })
    ]);
    const window = { left: 10, top: 8, width: 40, height: 24 };
    await act({ kind: 'crop', item: null, body: { window, orientation: upright } });
    const seen = await pictureSeen(clinic.caller(), pictureId);
    const { bytes } = await out(pictureId, 'presentation');
    await takeBack(clinic.caller(), pictureId, randomUUID());
    await readOnto(clinic.caller(), pictureId, randomUUID(), bytes);
    const { layers } = await pictureSeen(clinic.caller(), pictureId);
    expect(layers.look).toEqual(lookOf(seen));
    expect(layers.look!.steps.map(({ kind }) => kind)).toEqual(['window', 'gamma']);
    expect(layers.crop).toEqual(seen.layers.crop);
    const png = await sharp((await out(pictureId, 'png')).bytes).metadata();
    expect(png.width! / png.height!).toBeCloseTo(window.width / window.height, 1);
  });
  it('are read back onto the picture, as an act that can be taken back, and onto no other', async () => {
    const { pictureId, act } = await picture();
    const arrow = { kind: 'arrow', item: 'arrow-one', body: { points: [at(5, 5), at(30, 40)] } };
    await act(length, arrow);
    const state = (await out(pictureId, 'presentation')).bytes;
    const report = (await out(pictureId, 'report')).bytes;
    const items = async () => (await pictureSeen(clinic.caller(), pictureId)).layers.items;
    const before = await items();
    for (const { item, kind } of [length, arrow]) await act({ kind, item, body: null });
    expect(await items()).toEqual([]);
    const me = clinic.caller();
    expect(await readOnto(me, pictureId, randomUUID(), state)).toEqual({ count: 2, leftOut: [] });
    expect(await items()).toEqual(before);
    await takeBack(me, pictureId, randomUUID());
    expect(await items()).toEqual([]);
    expect(await readOnto(me, pictureId, randomUUID(), report)).toEqual({ count: 1, leftOut: [] });
    expect((await items()).map(({ kind }) => kind)).toEqual(['length']);
    const other = await picture();
    await expect(readOnto(me, other.pictureId, randomUUID(), state)).rejects.toMatchObject({
      code: 'other-picture'
    });
    // An id that nothing here could have.
    const odd = Buffer.from(
      Buffer.from(state).toString('latin1').replace('arrow-one', 'arrow one'),
      'latin1'
    );
    for (const rubbish of [odd, new Uint8Array(0), new Uint8Array(500), state.subarray(0, 200)])
      await expect(readOnto(me, pictureId, randomUUID(), rubbish)).rejects.toMatchObject({ status: 422 });
  });
  it('are not written where there is nothing to tell', async () => {
    const { pictureId } = await picture();
    await expect(out(pictureId, 'report')).rejects.toMatchObject({ code: 'nothing-measured' });
  });
});

it('readings leave as a table that another program reads: in full, with their ±, and no cell is a formula', async () => {
  const { visitId, pictureId, act } = await picture();
  await act(length, {
    kind: 'note',
    item: 'length-one',
    body: { name: '=1+1, "wide"', hidden: false, repeatOf: null }
  });
  await act({ kind: 'area', item: 'area-one', body: { points: [at(0, 0), at(10, 0), at(10, 20)] } });
  const read = async () => {
    const { bytes } = await readingsOut(clinic.caller(), visitId);
    return parse(Buffer.from(bytes), { columns: true, bom: true }) as Record<string, string>[];
  };
  const [first, second] = await read();
  expect(first).toMatchObject({ reading: `'=1+1, "wide"`, value: '100', unit: 'px', scale: 'none: pixels' });
  expect(Number(first.plus_minus)).toBeGreaterThan(0.5);
  expect(second).toMatchObject({ kind: 'Area', value: '100', unit: 'px2' });
  expect(first.picture.startsWith("'=")).toBe(true);
  await act(scale);
  const [scaled] = await read();
  expect(scaled).toMatchObject({ value: '20', unit: 'mm', prepared_by: expect.stringMatching(/\w/) });
  expect(scaled.confirmed_by).toBe('');
  void pictureId;
});

it('is told to nobody of another clinic, and written into the audit', async () => {
  const { pictureId, visitId } = await picture();
  await out(pictureId, 'png');
  const { rows } = await clinic.owner.query(
    `select details from audit_line where act = 'taken out' and subject = $1`,
    [pictureId]
  );
  expect(rows.map(({ details }) => details.as)).toEqual(['png']);
  await expect(takeOut(clinic.stranger, pictureId, outWish.parse({ as: 'png' }))).rejects.toMatchObject({
    status: 404
  });
  await expect(readingsOut(clinic.stranger, visitId)).rejects.toMatchObject({ status: 404 });
  await expect(
    takeOut(clinic.caller('administrator'), pictureId, outWish.parse({ as: 'png' }))
  ).rejects.toMatchObject({ status: 403 });
});
