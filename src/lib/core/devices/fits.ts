import { type Projection, imagingOf, isInMouth } from '../anatomy/projections';
import type { Slot } from '../tray/slot';
import { type DeviceUse, isDeviceKind, isFor } from './deviceKind';

export function useOf(projection: Projection): DeviceUse {
  const imaging = imagingOf(projection);
  if (imaging === 'photograph') return 'photographs';
  if (imaging === 'rings') return 'rings';
  if (imaging === 'ultrasound') return 'scans';
  return isInMouth(projection) ? 'in the mouth' : 'from outside';
}

/** Whether a device can take what a slot wants: by what it is for, and by the kind that the slot names. */
export function fitsSlot(kind: string, slot: Pick<Slot, 'projection' | 'device'>): boolean {
  if (!isDeviceKind(kind)) return false;
  if (slot.device) return kind === slot.device;
  return isFor(kind, useOf(slot.projection));
}
