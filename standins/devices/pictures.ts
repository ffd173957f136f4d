import { isInMouth } from '../../src/lib/core/anatomy/projections';
import type { SensorFault } from '../../src/lib/core/phantom/teeth/faultNames';
import { ordinaryMouth } from '../../src/lib/core/phantom/teeth/ordinaryMouth';
import { type Raster, bytesOf } from '../../src/lib/core/raster/raster';
import { type Slot, slotTeeth } from '../../src/lib/core/tray/slot';
import type { RenderJob, Rendered } from '../render/jobs';
import type { RenderPool } from '../render/pool';

/** The same series shows the same patient. */
const patientSeed = (series: string): number => parseInt(series.slice(-6), 16) % 100_000;
/** Whom every series shows where each run is to be the same. */
const samePatient = 47_113;

/** What one device exposes, picture after picture. */
export class SimulatedBeam {
  private seed = Math.floor(Date.now() / 1000) % 100_000;
  private readonly takes = new Map<string, number>();

  /** @param repeatable whether the first take of a slot is the same in each run, and the second, whoever sits there */
  constructor(
    private readonly pool: RenderPool,
    private readonly repeatable: boolean
  ) {}

  expose(series: string, slot: Slot, fault: SensorFault | null): Promise<Rendered> {
    if (!this.repeatable) return this.pool.render(jobFor(patientSeed(series), slot, ++this.seed, fault));
    const take = (this.takes.get(slot.id) ?? 0) + 1;
    this.takes.set(slot.id, take);
    return this.pool.render(jobFor(samePatient, slot, take, fault));
  }
}

/** What a device sees of a slot. */
function jobFor(patient: number, slot: Slot, seed: number, fault: SensorFault | null): RenderJob {
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
