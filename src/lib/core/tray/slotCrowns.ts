import { isUpperTooth } from '../anatomy/teeth';
import type { CrownSide } from '../raster/advice/crowns';
import { type Slot, slotTeeth } from './slot';

/** Where the crowns are in a picture of a slot that is seen upright; null where they can be anywhere. */
export function slotCrowns(slot: Slot): CrownSide | null {
  if (slot.projection === 'bitewing') return 'middle';
  const teeth = slotTeeth(slot);
  if (slot.projection !== 'periapical' || teeth.length === 0) return null;
  const upper = teeth.filter(isUpperTooth).length;
  return upper === teeth.length ? 'down' : upper === 0 ? 'up' : null;
}
