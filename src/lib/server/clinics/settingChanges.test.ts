import { describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { newId } from '../ids';
import { emptyLetter } from '../../core/letter/letterBody';
import { keepColleague, retireColleague } from '../letters/colleagues';
import { keepTemplate, retireTemplate, templates } from '../letters/templates';
import { keepAddress, keepLogo, letterheadOf } from './letterhead';
import { dropPrinter, keepPrinter, printers } from './printers';
import { categories, keepCategory } from '../pictures/categories';
import { settingChanges, takeBackSetting } from './settingChanges';
import { changeSettings, dropMarker, keepMarker, keptDays, markers } from './settings';

const clinic = useClinic();
const admin = () => clinic.caller('administrator');
const newest = async () => (await settingChanges(admin()))[0];
const takeBack = (seq: number) => takeBackSetting(admin(), newId(), seq);

describe('a change of a setting', () => {
  it('is taken back with one press, and that again', async () => {
    await changeSettings(admin(), { notation: 'universal', timeZone: 'UTC', binDays: 30 });
    const change = await newest();
    expect(change).toMatchObject({ takenBack: false, who: 'The administrator' });
    expect(change.words).toContain('how teeth are written');
    await takeBack(change.seq);
    expect(await keptDays(admin())).toMatchObject({ binDays: 90 });
    const [back, before] = await settingChanges(admin());
    expect(before).toMatchObject({ seq: change.seq, takenBack: true });
    await takeBack(back.seq);
    expect(await keptDays(admin())).toMatchObject({ binDays: 30 });
  });

  it('brings back what was dropped, as it was, and takes off what was added', async () => {
    const { markerId } = await keepMarker(admin(), newId(), {
      name: 'Steel ball',
      shape: 'ball',
      sizeMm: 25.4,
      toleranceMm: 0.02
    });
    const [known] = (await markers(admin())).filter((each) => each.markerId === markerId);
    const added = await newest();
    await dropMarker(admin(), newId(), markerId);
    const dropped = await newest();
    expect(dropped.words).toBe('Things of known size: Steel ball, taken off the list');
    await takeBack(dropped.seq);
    expect((await markers(admin())).filter((each) => each.markerId === markerId)).toEqual([known]);
    await takeBack(added.seq);
    expect((await markers(admin())).some((each) => each.markerId === markerId)).toBe(false);
  });

  it('is not taken back over what somebody changed later', async () => {
    await keepAddress(admin(), { address: 'One' });
    const one = await newest();
    await keepAddress(admin(), { address: 'Two' });
    await expect(takeBack(one.seq)).rejects.toMatchObject({ code: 'setting-changed-since' });
    expect((await letterheadOf(admin())).address).toBe('Two');
  });

  it('is taken back where something else of the same thing was changed later, and that stays', async () => {
    await keepAddress(admin(), { address: 'Before' });
    await keepAddress(admin(), { address: 'After' });
    const address = await newest();
    const svg =
      '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><circle cx="4" cy="4" r="4"/></svg>';
    await keepLogo(admin(), Buffer.from(svg));
    await takeBack(address.seq);
    const head = await letterheadOf(admin());
    expect([head.address, head.logo !== null]).toEqual(['Before', true]);
    // A picture is taken back as bytes: dropped, it comes back as it was.
    await keepLogo(admin(), null);
    await takeBack((await newest()).seq);
    expect((await letterheadOf(admin())).logo).toEqual(head.logo);
  });

  it('that another one stands in the way of is refused in words', async () => {
    const assistant = clinic.caller('assistant');
    const { printerId } = await keepPrinter(assistant, newId(), { name: 'Desk', acrossMm: 99, downMm: 100 });
    await dropPrinter(assistant, newId(), printerId);
    const dropped = await newest();
    await keepPrinter(assistant, newId(), { name: 'Desk', acrossMm: 98, downMm: 98 });
    await expect(takeBack(dropped.seq)).rejects.toMatchObject({ code: 'setting-in-use' });
    expect((await printers(admin())).map(({ acrossMm }) => acrossMm)).toEqual([98]);
  });

  it('of somebody whom letters go to is one too: whoever was added goes off the list and stays in the records', async () => {
    const said = {
      name: 'Dr Wick',
      greeting: '',
      practice: '',
      address: '',
      likes: 'paper' as const,
      destinationId: null
    };
    const { colleagueId } = await keepColleague(clinic.caller(), newId(), null, said);
    const added = await newest();
    await takeBack(added.seq);
    const inUse = async () =>
      (
        await clinic.owner.query<{ is: boolean }>(
          'select retired_at is null as is from colleague where colleague_id = $1',
          [colleagueId]
        )
      ).rows[0].is;
    expect(await inUse()).toBe(false);
    await keepColleague(clinic.caller(), newId(), colleagueId, said);
    await retireColleague(clinic.caller(), newId(), colleagueId);
    await takeBack((await newest()).seq);
    expect(await inUse()).toBe(true);
  });

  it('of a template is that it was put away; what it says has versions of its own', async () => {
    const before = await settingChanges(admin());
    const wish = { name: 'Ours', body: emptyLetter };
    const { templateId } = await keepTemplate(clinic.caller(), newId(), { of: null, ...wish });
    await keepTemplate(clinic.caller(), newId(), { of: { templateId, seq: 1 }, ...wish, name: 'Ours too' });
    expect(await settingChanges(admin())).toEqual(before);
    await retireTemplate(clinic.caller(), newId(), templateId, true);
    await takeBack((await newest()).seq);
    const [ours] = (await templates(clinic.caller())).filter((each) => each.templateId === templateId);
    expect(ours).toMatchObject({ name: 'Ours too', retired: false });
  });

  it('of a category is taken back with its rule, and one that was made is dropped', async () => {
    const rule = { kinds: ['photograph' as const], views: [], devices: [], words: [] };
    const { categoryId } = await keepCategory(clinic.caller(), newId(), null, { name: 'Smiles', rule });
    await keepCategory(clinic.caller(), newId(), categoryId, { name: 'Smiles before', rule: null });
    const [changed, made] = await settingChanges(admin());
    expect(changed.words).toBe('Categories: Smiles before, its name (Smiles → Smiles before), its rule');
    await takeBack(changed.seq);
    const ours = async () =>
      (await categories(clinic.caller())).find((each) => each.categoryId === categoryId);
    expect(await ours()).toMatchObject({ name: 'Smiles', rule });
    await takeBack(made.seq);
    expect(await ours()).toBeUndefined();
  });

  it('is an administrator’s to take back, of their own clinic alone', async () => {
    await keepAddress(admin(), { address: 'Three' });
    const { seq } = await newest();
    await expect(takeBackSetting(clinic.caller(), newId(), seq)).rejects.toMatchObject({
      code: 'not-allowed'
    });
    const stranger = { ...clinic.stranger, role: 'administrator' as const };
    await expect(takeBackSetting(stranger, newId(), seq)).rejects.toMatchObject({ code: 'not-found' });
  });
});
