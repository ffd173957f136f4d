import { describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { plainLayout as layout } from '../../../../e2e/harness/layouts';
import { type PrintLayout, plainField, printLayout, usualHead } from '../../core/print/printLayout';
import { areaOf, sheetNames, sheetOf } from '../../core/print/paper';
import { newId } from '../ids';
import { dropLayout, keepLayout, printLayouts } from './printLayouts';
import { settingChanges, takeBackSetting } from './settingChanges';

const clinic = useClinic();
const admin = () => clinic.caller('administrator');
const keep = (of: PrintLayout, layoutId: string | null = null) =>
  keepLayout(clinic.caller(), newId(), { layoutId, layout: of });
const kept = async () => (await printLayouts(clinic.caller())).map((each) => each.layout);

describe('a layout of sheets', () => {
  it('begins as every sheet does, over the pictures and on the sheet', () => {
    for (const paper of sheetNames)
      for (const lying of [false, true]) {
        const { fields, logo } = usualHead(paper, lying);
        const { width } = sheetOf(paper, lying);
        for (const { leftMm, topMm, widthMm } of [...fields, logo!]) {
          expect(leftMm).toBeGreaterThanOrEqual(0);
          expect(leftMm + widthMm).toBeLessThanOrEqual(width);
          expect(topMm).toBeLessThan(areaOf(sheetOf(paper, lying)).top);
        }
        expect(printLayout.schema.safeParse(layout('A', { paper, lying, fields, logo })).success).toBe(true);
      }
  });

  it('is kept by its name, changed, and dropped; each of that is taken back', async () => {
    const { layoutId } = await keep(layout('Harbour'));
    const words = plainField('words', { words: 'For the harbour bench', colour: '#b3311f', pt: 16 });
    await keep(layout('Harbour', { fields: [words], logo: null }), layoutId);
    expect(await kept()).toEqual([layout('Harbour', { fields: [words], logo: null })]);
    const [changed] = await settingChanges(admin());
    expect(changed.words).toBe('Print layouts: Harbour, what stands on it');
    await dropLayout(clinic.caller(), newId(), layoutId);
    expect(await kept()).toEqual([]);
    const [dropped] = await settingChanges(admin());
    await takeBackSetting(admin(), newId(), dropped.seq);
    await takeBackSetting(admin(), newId(), changed.seq);
    expect(await kept()).toEqual([layout('Harbour')]);
  });

  it('has a name of its own, and is the clinic’s', async () => {
    await keep(layout('Ours'));
    await expect(keep(layout('OURS'))).rejects.toMatchObject({ code: 'name-taken' });
    await expect(keep(layout('Theirs'), newId())).rejects.toMatchObject({ status: 404 });
    await expect(
      keepLayout(clinic.caller('front-desk'), newId(), { layoutId: null, layout: layout('Desk') })
    ).rejects.toMatchObject({ status: 403 });
    expect(await printLayouts(clinic.stranger)).toEqual([]);
  });

  it.each([
    ['a place off every sheet', { leftMm: 900 }, /on the sheet/],
    ['letters that nobody reads', { pt: 2 }, /5 to 40 points/],
    ['a colour that is none', { colour: 'red; url(x)' }, /six digits/]
  ])('of %s is refused in words', (_, field, words) => {
    const read = printLayout.schema.safeParse(layout('A', { fields: [plainField('patient', field)] }));
    expect(read.error?.issues[0].message).toMatch(words);
  });
});
