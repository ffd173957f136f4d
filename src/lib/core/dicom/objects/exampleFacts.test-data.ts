import { fourBitewings } from '../../tray/fourBitewings';
import type { PictureFacts } from './facts';

/** A made-up patient's picture with every fact set to something that can be found again. */
export function exampleFacts(changes: Partial<PictureFacts> = {}): PictureFacts {
  return {
    patient: { name: 'Planted^Name', id: 'PLANTED-ID', birthDate: '19700102', sex: 'F' },
    study: {
      uid: '2.25.111',
      date: '20240301',
      time: '091500',
      id: 'PLANTEDSTUDY',
      accession: 'PLANTEDACC',
      description: 'Planted study words'
    },
    series: { uid: '2.25.222', number: 1, description: 'Planted series words' },
    instance: { uid: '2.25.333', number: 1, date: '20240301', time: '092233' },
    equipment: { manufacturer: 'Yonder stand-ins', model: 'Sensor', institution: 'Planted clinic' },
    raster: {
      width: 6,
      height: 4,
      channels: 1,
      bitsStored: 16,
      offset: 0,
      data: Uint16Array.from({ length: 24 }, (_, i) => i * 2731)
    },
    look: { window: { center: 30000, width: 60000 }, inverted: false },
    orientation: fourBitewings.slots[0].orientation,
    slot: fourBitewings.slots[0],
    teeth: [16, 17, 46, 47],
    detectorSpacingMm: [0.02, 0.02],
    exposure: { kv: 65, exposureMas: 0.7 },
    burnedIn: false,
    lossy: null,
    ...changes
  };
}
