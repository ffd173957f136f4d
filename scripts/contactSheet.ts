// Renders every simulated body to a PNG of its own, to be looked at:
//   npx tsx scripts/contactSheet.ts FOLDER
import fs from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import { past } from '../demo/past';
import { roomVisits } from '../demo/rooms';
import type { Raster } from '../src/lib/core/raster/raster';
import { turnRaster } from '../src/lib/core/raster/turnRaster';
import { fullMouth } from '../src/lib/core/tray/shipped/fullMouth';
import { type RenderJob, rendered } from '../standins/render/jobs';

const folder = process.argv[2] ?? '.data/contact-sheet';
fs.mkdirSync(folder, { recursive: true });

async function write(name: string, raster: Raster): Promise<void> {
  const { width, height, channels, bitsStored, data } = raster;
  const top = 2 ** bitsStored - 1;
  const bytes = Uint8Array.from(data, (value) => (255 * value) / top);
  const file = path.join(folder, `${name.toLowerCase().replace(/[^a-z0-9]+/g, '-')}.png`);
  await sharp(bytes, { raw: { width, height, channels } }).png().toFile(file);
}

const tooth = (slotId: string): RenderJob => {
  const { mouth } = past[0].series.shots[0];
  return {
    kind: 'tooth',
    mouth,
    slot: fullMouth.pattern.slots.find(({ id }) => id === slotId)!,
    seed: 1,
    fault: null
  };
};
for (const slot of fullMouth.pattern.slots) {
  const [raster] = rendered(tooth(slot.id)).frames;
  await write(`Teeth ${slot.name} ${slot.projection}`, turnRaster(raster, slot.orientation));
  console.log(`${slot.name}, ${slot.projection}`);
}
for (const { pictures } of roomVisits) {
  for (const { name, job } of pictures) {
    await write(`${job.kind} ${name}`, rendered(job).frames[0]);
    console.log(name);
  }
}
for (const kind of ['femur', 'tibia', 'forearm'] as const) {
  for (const from of ['front', 'side'] as const) {
    const wish = {
      seed: 5,
      bone: kind,
      angleFrontDeg: 9,
      angleSideDeg: -6,
      shiftMm: [3, 4, 7] as [number, number, number]
    };
    await write(`Broken ${kind} ${from}`, rendered({ kind: 'broken shaft', wish, from, seed: 1 }).frames[0]);
    console.log(`Broken ${kind}, from the ${from}`);
  }
}
