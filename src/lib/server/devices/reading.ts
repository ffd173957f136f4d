import { z } from 'zod';
import { inClinic } from '../database/connection';
import { announce } from '../news/announce';
import type { DeviceCaller } from './devices';

/** So many samples go into one piece of news. */
const mostSamples = 4_096;

/** Lines of a plate as they are read, made small by the device: a higher value is denser. */
export const readingReport = z
  .object({
    readingId: z.string().min(8).max(60),
    armingId: z.uuid(),
    plate: z.string().max(20).default(''),
    width: z.number().int().min(8).max(256),
    height: z.number().int().min(8).max(512),
    from: z.number().int().min(0),
    rows: z.base64().max(mostSamples * 2)
  })
  .refine(({ width, height, from, rows }) => {
    const bytes = Buffer.from(rows, 'base64').length;
    return bytes > 0 && bytes <= mostSamples && bytes % width === 0 && from + bytes / width <= height;
  }, 'the rows are not whole lines of the plate');

/** Shows the pages of a visit how far a plate is. Nothing of it is kept: the plate itself is, when it was read. */
export async function reportReading(
  { deviceId, clinicId, name }: DeviceCaller,
  { armingId, ...lines }: z.infer<typeof readingReport>
): Promise<void> {
  await inClinic(clinicId, async (tx) => {
    const row = await tx.one<{ visit_id: string }>(
      'select t.visit_id from arming a join tray t using (tray_id) where a.arming_id = $1 and a.device_id = $2',
      armingId,
      deviceId
    );
    if (!row) return;
    await announce(tx, { topic: 'reading', visitId: row.visit_id, deviceId, device: name, ...lines });
  });
}
