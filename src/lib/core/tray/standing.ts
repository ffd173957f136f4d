import { placeKey } from '../anatomy/place';
import type { Ref } from './pattern';
import type { Slot } from './slot';
import { type Tray, wellsAlong } from './tray';

/** Where one take lies: what can be asked of many takes at once without going through their trays' events. */
export interface Standing {
  takeId: string;
  slotId: string | null;
  /** The slot itself where no pattern has it. */
  slot: Slot | null;
  pattern: Ref | null;
  keeper: boolean;
  confirmed: boolean;
  /** Of the slot's places, while the take is its keeper. */
  placeKeys: string[];
}

export function standingOf(tray: Tray): Standing[] {
  const pattern = tray.laid?.pattern ?? null;
  const inWells = wellsAlong(tray).flatMap((well) =>
    well.takes.map((takeId): Standing => {
      const keeper = takeId === well.keeper;
      return {
        takeId,
        slotId: well.slot.id,
        slot: well.added ? well.slot : null,
        pattern: well.added ? null : pattern,
        keeper,
        confirmed: keeper && well.confirmed !== null,
        placeKeys: keeper ? well.slot.places.map(placeKey) : []
      };
    })
  );
  const beside = [...tray.bench, ...tray.dropped].map((takeId): Standing => ({
    takeId,
    slotId: null,
    slot: null,
    pattern: null,
    keeper: false,
    confirmed: false,
    placeKeys: []
  }));
  return [...inWells, ...beside];
}

/** What lies otherwise than before; takes that left the tray are not told. */
export function changedStanding(before: Tray, after: Tray): Standing[] {
  const known = new Map(standingOf(before).map((each) => [each.takeId, JSON.stringify(each)]));
  return standingOf(after).filter((each) => known.get(each.takeId) !== JSON.stringify(each));
}
