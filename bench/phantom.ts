import { past } from '../demo/past';
import { roomVisits } from '../demo/rooms';
import { seededRandom } from '../src/lib/core/random';
import { type RenderJob, rendered } from '../standins/render/jobs';
import { type Row, median, times } from './report';

const rounds = 3;

/** What a picture costs at the least: a random number with a normal distribution for each of its pixels. */
async function noiseAlone(pixels: number): Promise<number> {
  const random = seededRandom(1);
  const out = new Float32Array(pixels);
  return median(
    await times(rounds, () => {
      for (let i = 0; i < pixels; i++) out[i] = random.normal();
    })
  );
}

/** Every kind of simulated picture, against the noise alone of as many pixels. */
export async function benchPhantom(): Promise<Row[]> {
  const [shot] = past[0].series.shots;
  const slot = past[0].series.pattern.pattern.slots.find(({ id }) => id === shot.slotId)!;
  const jobs: RenderJob[] = [
    { kind: 'tooth', mouth: shot.mouth, slot, seed: 1, fault: null },
    ...new Map(
      roomVisits.flatMap(({ pictures }) => pictures.map(({ job }): [string, RenderJob] => [job.kind, job]))
    ).values()
  ];
  const rows: Row[] = [];
  for (const job of jobs) {
    let size = { width: 0, height: 0 };
    const took = await times(rounds, () => {
      size = rendered(job).frames[0];
    });
    rows.push({
      name: `Simulated picture, ${job.kind}, ${size.width}x${size.height}`,
      oursMs: median(took),
      reference: 'noise alone for as many pixels',
      referenceMs: await noiseAlone(size.width * size.height),
      limit: Infinity
    });
  }
  return rows;
}
