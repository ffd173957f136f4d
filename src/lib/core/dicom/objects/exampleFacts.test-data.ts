import { toothPlaces } from '../../anatomy/place';
import { windowLook } from '../../raster/look/look';
import { fourBitewings } from '../../tray/shipped/fourBitewings';
import type { ObjectFacts } from './objectFacts';

/** A made-up patient's picture with every fact set to something that can be found again. */
export function exampleFacts(changes: Partial<ObjectFacts> = {}): ObjectFacts {
  const [slot] = fourBitewings.pattern.slots;
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
    kind: 'radiograph',
    pixels: {
      width: 6,
      height: 4,
      channels: 1,
      bitsStored: 16,
      offset: 0,
      frames: 1,
      frameMs: null,
      bytes: new Uint8Array(Uint16Array.from({ length: 24 }, (_, i) => i * 2731).buffer)
    },
    look: windowLook({ center: 30000, width: 60000 }),
    orientation: slot.orientation,
    directions: ['F', 'P'],
    slot,
    places: toothPlaces([16, 17, 46, 47]),
    detectorSpacingMm: [0.02, 0.02],
    scale: {
      source: 'detector',
      mmPerPixelX: 0.02,
      mmPerPixelY: 0.02,
      relativeUncertainty: 0.001,
      description: 'spacing at the detector'
    },
    exposure: { kv: 65, exposureMas: 0.7 },
    burnedIn: false,
    lossy: null,
    ...changes
  };
}
