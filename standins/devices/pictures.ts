import { isInMouth } from '../../src/lib/core/anatomy/projections';
import type { SensorFault } from '../../src/lib/core/phantom/teeth/faultNames';
import { ordinaryMouth } from '../../src/lib/core/phantom/teeth/ordinaryMouth';
import { type Raster, bytesOf } from '../../src/lib/core/raster/raster';
import { type Slot, slotTeeth } from '../../src/lib/core/tray/slot';
import type { RenderJob, Rendered } from '../render/jobs';

/** The same series shows the same patient. */
const patientSeed = (series: string): number => parseInt(series.slice(-6), 16) % 100_000;

/** What a device sees of a slot. */
export function jobFor(series: string, slot: Slot, seed: number, fault: SensorFault | null): RenderJob {
  const patient = patientSeed(series);
  const mouth = ordinaryMouth(patient);
  if (isInMouth(slot.projection) && slotTeeth(slot).length > 0)
    return { kind: 'tooth', mouth, slot, seed, fault };
  if (slot.projection === 'panoramic') return { kind: 'panoramic', mouth, seed };
  if (slot.projection === 'photograph')
    return slot.places.some((place) => place.kind === 'photograph' && place.view === 'wound')
      ? { kind: 'wound', seed, lengthMm: 20 + (patient % 30), widthMm: 8 + (patient % 11) }
      : { kind: 'mouth photograph', mouth, seed };
  return { kind: 'body', slot, patient, seed, fault };
}

export interface TakenPicture {
  raster: Raster;
  bytes: Uint8Array;
  pitchMm: number | null;
}

export const takenFrom = ({ frames: [raster], pitchMm }: Rendered): TakenPicture => ({
  raster,
  bytes: bytesOf(raster),
  pitchMm
});
