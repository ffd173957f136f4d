import { adviceOn } from '../../core/raster/advice/advice';
import { intraoralNorm } from '../../core/raster/advice/levels';
import { seededRandom } from '../../core/random';

const [width, height] = [650, 850];

/** Looks at a made-up take once, so that the first real one of a day is answered as fast as any other. */
export function warmUp(): void {
  const random = seededRandom(1);
  const data = Uint16Array.from({ length: width * height }, (_, i) => {
    const [x, y] = [i % width, Math.floor(i / width)];
    const shapes = 12_000 * Math.sin(x / 31) * Math.cos(y / 43) + 5000 * Math.sin((x + y) / 9);
    return 30_000 + shapes + 400 * random.normal();
  });
  const seen = { quarterTurns: 0, mirrored: false } as const;
  adviceOn(
    { width, height, channels: 1, bitsStored: 16, offset: 0, data },
    { norm: intraoralNorm, crowns: { side: 'down', seen }, side: { side: 'left', seen } }
  );
}
