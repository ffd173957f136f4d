import { z } from 'zod';
import { writeAudit } from '../audit/write';
import { inClinic } from '../database/connection';
import { sha256 } from '../ids';
import { Problem } from '../problem';
import { samplesMediaType } from '../pictures/facts';
import { pictureOfKey, storePicture } from '../pictures/store';
import { addToTray, trayOfVisit } from '../trays/trays';
import { type Raster, assertRaster, samplesFrom } from '../../core/raster/raster';
import { firstLook } from '../../core/raster/statistics';
import type { DeviceCaller } from './devices';

/** What a device says of an exposure it offers (docs/device-protocol.md). */
export const exposureOffer = z.object({
  armingId: z.uuid(),
  takenAt: z.iso.datetime(),
  width: z.number().int().min(1).max(12_000),
  height: z.number().int().min(1).max(12_000),
  bitsStored: z.number().int().min(8).max(16),
  pitchMm: z.number().positive().max(1),
  manufacturer: z.string().max(64).default(''),
  model: z.string().max(64).default(''),
  kv: z.number().positive().max(500).optional(),
  exposureMas: z.number().nonnegative().max(1000).optional()
});
export type ExposureOffer = z.infer<typeof exposureOffer>;

const rubbish = (sentence: string) =>
  new Problem('rubbish', sentence, 'Offer the exposure again as it was read from the detector.', 422);

function readRaster(offer: ExposureOffer, samples: Uint8Array): Raster {
  const expected = offer.width * offer.height * (offer.bitsStored > 8 ? 2 : 1);
  if (samples.length !== expected) {
    throw rubbish(`The exposure holds ${samples.length} bytes where ${expected} were announced.`);
  }
  return assertRaster({
    width: offer.width,
    height: offer.height,
    channels: 1,
    bitsStored: offer.bitsStored,
    offset: 0,
    data: samplesFrom(samples, offer.bitsStored)
  });
}

/**
 * Stores an exposure: picture, take, audit line and jobs in one transaction. The answer is given only when that is
 * committed, so a device that hears nothing offers again; the same key twice is one picture.
 */
export async function takeExposure(
  device: DeviceCaller,
  key: string,
  offer: ExposureOffer,
  samples: Uint8Array,
  digest: Buffer | null
): Promise<{ pictureId: string; again: boolean }> {
  const own = sha256(samples);
  if (digest && !digest.equals(own))
    throw rubbish('The exposure was changed on its way: its digest differs.');
  const raster = readRaster(offer, samples);
  const ownKey = `${device.deviceId}:${key}`;
  return inClinic(device.clinicId, async (tx) => {
    const before = await pictureOfKey(tx, ownKey);
    if (before) return { pictureId: before, again: true };
    const armed = await tx.one<{ slot_id: string; visit_id: string; patient_id: string }>(
      `select a.slot_id, v.visit_id, v.patient_id from arming a join tray t using (tray_id) join visit v using (visit_id)
       where a.arming_id = $1 and a.device_id = $2`,
      offer.armingId,
      device.deviceId
    );
    if (!armed) {
      throw new Problem(
        'never-armed',
        'This exposure names an arming that this clinic never gave to this device.',
        'Keep it and tell the clinic.',
        409
      );
    }
    const stored = await trayOfVisit(tx, armed.visit_id, true);
    const again = await pictureOfKey(tx, ownKey);
    if (again) return { pictureId: again, again: true };
    const pictureId = await storePicture(tx, ownKey, {
      patientId: armed.patient_id,
      visitId: armed.visit_id,
      original: samples,
      digest: own,
      mediaType: samplesMediaType,
      fileName: '',
      source: 'device',
      raster,
      takenAt: new Date(offer.takenAt),
      facts: {
        version: 1,
        from: device.name,
        manufacturer: offer.manufacturer,
        model: offer.model,
        imagerPixelSpacing: [offer.pitchMm, offer.pitchMm],
        kv: offer.kv,
        exposureMas: offer.exposureMas,
        firstLook: firstLook(raster),
        fileAttributes: [],
        remarks: []
      }
    });
    await addToTray(
      tx,
      stored,
      [{ kind: 'take-added', takeId: pictureId, slotId: armed.slot_id, exposed: true }],
      device.name,
      { exposedBy: device.deviceId }
    );
    await writeAudit(tx, device.name, 'exposure stored', pictureId, {
      visit: armed.visit_id,
      slot: armed.slot_id
    });
    return { pictureId, again: false };
  });
}
