import { describe, expect, it, vi } from 'vitest';
import { plainPacking } from '$core/parcel/packing';
import type { PictureView } from '$core/picture/pictureView';
import { ParcelDesk, type SeenDestination, asFile, leftWords } from './parcelDesk.svelte';

vi.mock('$app/state', () => ({ page: { data: { who: { timeZone: 'Pacific/Auckland' } } } }));

const destination = (
  kind: SeenDestination['kind'],
  settings: Partial<SeenDestination['settings']> = {}
): SeenDestination => ({
  destinationId: kind,
  name: kind,
  kind,
  where: '',
  settings: { identity: 'identified', ruleId: null, packing: plainPacking, ...settings }
});
const all = [
  destination('dicomweb'),
  destination('mail', {
    identity: 'deidentified',
    ruleId: 'rule-2',
    packing: { ...plainPacking, format: 'jpeg' }
  }),
  destination('folder'),
  destination('claims', { packing: { ...plainPacking, format: 'jpeg' } })
];
const picture = {
  pictureId: 'p1',
  kind: 'radiograph',
  takenAt: '2026-03-01T22:00:00.000Z',
  placed: true,
  links: [{ kind: 'tooth', tooth: 36 }],
  slot: null,
  layers: {},
  fileName: 'Kestrelle.png'
} as unknown as PictureView;

describe('what is chosen for a parcel', () => {
  it('comes with the destination, and what was changed holds for this once', () => {
    const desk = new ParcelDesk(all, 'rule-1');
    expect([desk.destinationId, desk.identity, desk.isArchive, desk.warns]).toEqual([
      'dicomweb',
      'identified',
      true,
      false
    ]);
    desk.choose('mail');
    expect([desk.identity, desk.ruleId, desk.packing.format, desk.warns]).toEqual([
      'deidentified',
      'rule-2',
      'jpeg',
      false
    ]);
    desk.identity = 'identified';
    expect(desk.warns).toBe(true);
    desk.change({ format: 'png' });
    desk.choose('dicomweb');
    desk.choose('mail');
    expect([desk.identity, desk.packing.format]).toEqual(['deidentified', 'jpeg']);
  });

  it('has to be warned of anew for each destination that names go to openly, but not for an archive or a claims office', () => {
    const desk = new ParcelDesk(all, 'rule-1');
    desk.choose('folder');
    desk.warned = true;
    expect(desk.wish([picture])).toMatchObject({ destinationId: 'folder', warned: true, ruleId: null });
    desk.choose(asFile);
    expect([desk.warned, desk.warns, desk.packing.format]).toEqual([false, true, 'package']);
    expect(desk.wish([picture]).destinationId).toBeNull();
    desk.choose('claims');
    expect(desk.warns).toBe(false);
  });

  it('tells a claims office what is proposed, and what a person has said instead', () => {
    const desk = new ParcelDesk(all, 'rule-1');
    expect(desk.wish([picture])).not.toHaveProperty('claims');
    desk.choose('claims');
    expect(desk.wish([picture]).claims).toEqual({
      p1: { kind: 'intraoral', taken: '2026-03-02', leftIsAt: 'right', remark: '' }
    });
    desk.tell(picture, { leftIsAt: 'left' });
    desk.tell(picture, { remark: 'Before' });
    expect(desk.claimOf(picture)).toEqual({
      kind: 'intraoral',
      taken: '2026-03-02',
      leftIsAt: 'left',
      remark: 'Before'
    });
  });

  it('shows no name in its example where none goes along', () => {
    const desk = new ParcelDesk(all, 'rule-1');
    const whose = { name: 'Tobin Kestrelle', recordNumber: 'QS-1011' };
    expect(desk.example([picture], whose, 'fdi')[0]).toMatchObject({
      who: 'Tobin Kestrelle',
      number: 'QS-1011'
    });
    desk.choose('mail');
    const [away] = desk.example([picture], whose, 'fdi');
    expect(`${away.who} ${away.number} ${away.date}`).not.toMatch(/Kestrelle|QS-1011|2026/);
  });
});

it('what stays out is said, and nothing where all goes', () => {
  expect(leftWords({ sent: 3, left: 0, parcelId: 'x' })).toBe('');
  expect(leftWords({ sent: 1, left: 2, parcelId: 'x' })).toMatch(/^2 were there already/);
  expect(leftWords({ sent: 0, left: 2, parcelId: null })).toMatch(/^All of these/);
});
