import { z } from 'zod';
import type { PictureKind } from '../../core/picture/pictureView';
import { Problem } from '../problem';

/** What a device says of an exposure it offers (docs/device-protocol.md). */
export const exposureOffer = z.object({
  /** What it was armed for; null when it was for nothing. */
  armingId: z.uuid().nullable(),
  takenAt: z.iso.datetime(),
  width: z.number().int().min(1).max(12_000),
  height: z.number().int().min(1).max(12_000),
  bitsStored: z.number().int().min(8).max(16),
  /** What is printed on the plate that was read. */
  plate: z.string().min(1).max(20).optional(),
  pitchMm: z.number().positive().max(1),
  manufacturer: z.string().max(64).default(''),
  model: z.string().max(64).default(''),
  kv: z.number().positive().max(500).optional(),
  exposureMas: z.number().nonnegative().max(1000).optional()
});
export type ExposureOffer = z.infer<typeof exposureOffer>;

/** What the pictures of a kind of device are. */
export const pictureKindOf = (deviceKind: string): PictureKind =>
  ['intraoral-sensor', 'plate-scanner', 'panel'].includes(deviceKind) ? 'radiograph' : 'other';

export const bytesAnnounced = ({ width, height, bitsStored }: ExposureOffer): number =>
  width * height * (bitsStored > 8 ? 2 : 1);

export const rubbish = (sentence: string): Problem =>
  new Problem('rubbish', sentence, 'Offer the exposure again as it was read from the detector.', 422);
