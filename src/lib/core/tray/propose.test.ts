import { describe, expect, it } from 'vitest';
import { type Place, toothPlaces } from '../anatomy/place';
import { filledByAnatomy, projectionsFor, proposedSlots, takenAs } from './propose';
import { fullMouth } from './shipped/fullMouth';
import { slotTeeth, slotSchema } from './slot';

const teethOf = (places: readonly Place[]) =>
  proposedSlots(places).map((slot) => slotTeeth({ ...slot, id: 'x', at: { x: 0, y: 0 } }));
const bone = (region: string, side: string | null, whose = 'person') =>
  ({ kind: 'bone', region, side, whose }) as Place;

describe('views proposed for places', () => {
  it('show neighbouring teeth together, as many as a sensor holds', () => {
    expect(teethOf(toothPlaces([36]))).toEqual([[36]]);
    expect(teethOf(toothPlaces([35, 36, 37, 34, 38]))).toEqual([
      [34, 35, 36],
      [37, 38]
    ]);
    expect(teethOf(toothPlaces([11, 21, 12, 22, 14]))).toEqual([[14], [12, 11, 21, 22]]);
    expect(teethOf(toothPlaces([16, 46]))).toEqual([[16], [46]]);
    expect(teethOf(toothPlaces([75, 36]))).toEqual([[36], [75]]);
  });
  it('are named in words of no notation', () => {
    expect(proposedSlots(toothPlaces([36])).map(({ name }) => name)).toEqual(['Lower left first molar']);
    expect(proposedSlots(toothPlaces([44, 45])).map(({ name }) => name)).toEqual(['Lower right premolars']);
    expect(proposedSlots(toothPlaces([12, 11, 21])).map(({ name }) => name)).toEqual(['Upper incisors']);
    expect(proposedSlots(toothPlaces([45, 46])).map(({ name }) => name)).toEqual(['Lower right teeth']);
  });
  it('of bones are the usual ones of that bone and side', () => {
    expect(proposedSlots([bone('ankle', 'left')]).map(({ name }) => name)).toEqual([
      'Left ankle, from the front',
      'Left ankle, oblique',
      'Left ankle, from the side'
    ]);
    expect(proposedSlots([bone('carpus', 'right', 'animal')])).toMatchObject([
      { name: 'Right carpus, from the front', projection: 'front to back' }
    ]);
  });
  it('of animal teeth keep canines and cheek teeth apart', () => {
    const cat = (tooth: number): Place => ({ kind: 'animal tooth', species: 'cat', tooth });
    expect(proposedSlots([404, 407, 408].map(cat))).toMatchObject(
      [{ name: 'Lower right cheek teeth', shape: 'lying' }, { shape: 'standing' }].map(({ shape }) => ({
        shape
      }))
    );
  });
  it('can be stored once they have an id and a place', () => {
    const all = proposedSlots([...toothPlaces([18, 17, 55, 31]), bone('pelvis', null), bone('knee', 'both')]);
    for (const slot of all)
      expect(slotSchema.safeParse({ ...slot, id: 'own-1', at: { x: 0.1, y: 0.2 } }).success, slot.name).toBe(
        true
      );
  });
});

describe('taking a proposed view otherwise', () => {
  const [molar] = proposedSlots(toothPlaces([46]));
  it('shows both jaws in a bitewing, and the sensor lies on its side', () => {
    const bite = takenAs(molar, 'bitewing');
    expect(bite.places).toEqual(toothPlaces([46, 16]));
    expect(bite).toMatchObject({
      projection: 'bitewing',
      orientation: { quarterTurns: 1 },
      name: 'Right first molar'
    });
  });
  it('is offered as far as it makes sense', () => {
    expect(projectionsFor(molar)).toContain('occlusal');
    expect(projectionsFor(proposedSlots([bone('wrist', 'left')])[0])).not.toContain('bitewing');
    expect(projectionsFor(proposedSlots([{ kind: 'photograph', view: 'wound' }])[0])).toEqual(['photograph']);
  });
});

describe('filling a tray from the bench', () => {
  it('puts each take where its places are seen best, and no two into one slot', () => {
    const moves = filledByAnatomy(
      [
        { takeId: 'molars', places: toothPlaces([16, 17]) },
        { takeId: 'again', places: toothPlaces([16, 17]) },
        { takeId: 'incisors', places: toothPlaces([11, 21]) },
        { takeId: 'unknown', places: [] }
      ],
      fullMouth.pattern.slots
    );
    expect(moves).toEqual([
      { takeId: 'molars', slotId: 'pa-upper-right-molars' },
      { takeId: 'incisors', slotId: 'pa-upper-incisors' }
    ]);
  });
});
