import type { Size } from '../../raster/orientation';
import type { Raster } from '../../raster/raster';
import { turnRaster } from '../../raster/turnRaster';
import type { Slot } from '../../tray/slot';
import type { Faults } from '../xray/faults';
import type { Mouth } from './dentition';
import type { SensorFault } from './faultNames';
import { sensorHeightPx, sensorWidthPx, takeForSlot } from './views';

/** The take for a slot, with a fault if one is named. */
export function faultyTake(mouth: Mouth, slot: Slot, seed: number, fault: SensorFault | null): Raster {
  const size = { width: sensorWidthPx, height: sensorHeightPx };
  return turnedWrong(takeForSlot(mouth, slot, seed, fault ? faultsOf(fault, size) : {}), fault);
}

/** The take as it comes when the detector lay the wrong way round, if that is its fault. */
export function turnedWrong(take: Raster, fault: SensorFault | null): Raster {
  if (fault === 'turned') return turnRaster(take, { quarterTurns: 2, mirrored: false });
  if (fault === 'mirrored') return turnRaster(take, { quarterTurns: 0, mirrored: true });
  return take;
}

/** In pixels of the detector as the picture stands upright. */
export function faultsOf(fault: SensorFault, { width, height }: Size): Faults {
  switch (fault) {
    case 'under':
      return { dose: 0.22 };
    case 'over':
      return { dose: 6 };
    case 'cut off':
      return {
        cutOff: {
          kind: 'round',
          center: { x: width * 0.95, y: height * 0.3 },
          radiusPx: height * 0.62
        }
      };
    case 'moved':
      return { motion: { lengthPx: 34, directionDeg: 20 } };
    case 'nothing':
      return { dose: 0 };
    case 'clipped':
      return { clipAt: 0.45 };
    case 'dropped rows':
      return { droppedRows: 24 };
    case 'turned':
    case 'mirrored':
      return {};
  }
}
