import { type Remote, wrap } from 'comlink';
import MouthViewWorker from '../../workers/mouthView.worker?worker';
import type { MouthView } from '../../workers/mouthView';

const framesPerSecond = 15;
const wanderPx = 60;
const wanderSeconds = 6;
const shownShare = 0.8;

/** The demo's camera: a simulated mouth, seen by a hand that is not quite still. */
export async function simulatedCamera(seed: number): Promise<{ stream: MediaStream; stop: () => void }> {
  const worker = new MouthViewWorker();
  const remote = wrap(worker) as unknown as Remote<{ mouthView: (seed: number) => MouthView }>;
  const { width, height, pixels } = await remote.mouthView(seed);
  worker.terminate();
  const still = new OffscreenCanvas(width, height);
  still.getContext('2d')!.putImageData(new ImageData(new Uint8ClampedArray(pixels), width, height), 0, 0);
  const canvas = document.createElement('canvas');
  canvas.width = Math.round(width * shownShare);
  canvas.height = Math.round(height * shownShare);
  const pen = canvas.getContext('2d')!;
  const draw = () => {
    const turn = (performance.now() / 1000 / wanderSeconds) * 2 * Math.PI;
    const x = (width - canvas.width) / 2 + wanderPx * Math.sin(turn);
    const y = (height - canvas.height) / 2 + (wanderPx / 2) * Math.cos(turn * 1.7);
    pen.drawImage(still, x, y, canvas.width, canvas.height, 0, 0, canvas.width, canvas.height);
  };
  draw();
  const timer = setInterval(draw, 1000 / framesPerSecond);
  return { stream: canvas.captureStream(framesPerSecond), stop: () => clearInterval(timer) };
}
