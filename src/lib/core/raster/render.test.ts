import { describe, expect, it } from 'vitest';
import { type Orientation, orientedSize } from './orientation';
import { render } from './render';
import { fitted, screenToImage } from './view';

const background = 0xff000000;
const table = Uint32Array.from({ length: 65536 }, (_, i) => i + 1);

function draw(orientation: Orientation, zoom: number) {
  const width = 7;
  const height = 5;
  const data = Uint16Array.from({ length: width * height }, (_, i) => i);
  const size = orientedSize({ width, height }, orientation);
  const screen = { width: Math.ceil(size.width * zoom) + 4, height: Math.ceil(size.height * zoom) + 6 };
  const view = { ...fitted({ picture: { width, height }, orientation, screen }), zoom };
  const out = new Uint32Array(screen.width * screen.height);
  render({
    level: { raster: { width, height, channels: 1, bitsStored: 16, offset: 0, data }, factor: 1 },
    picture: { width, height },
    orientation,
    view,
    screen,
    table,
    out,
    background
  });
  return {
    out,
    screen,
    view,
    stage: { picture: { width, height }, orientation, screen },
    data,
    width,
    height
  };
}

describe('render', () => {
  it.each([0, -45, -3.3, 28])(
    'shows, at every screen pixel, the sample that lies there, tilted by %s',
    (tiltDeg) => {
      for (const quarterTurns of [0, 1, 2, 3] as const) {
        for (const mirrored of [false, true]) {
          const orientation = { quarterTurns, mirrored, ...(tiltDeg ? { tiltDeg } : {}) };
          const { out, screen, view, stage, data, width, height } = draw(orientation, 3.1);
          for (let y = 0; y < screen.height; y++) {
            for (let x = 0; x < screen.width; x++) {
              const p = screenToImage({ x: x + 0.5, y: y + 0.5 }, view, stage);
              const inside = p.x >= 0 && p.y >= 0 && p.x < width && p.y < height;
              const expected = inside ? table[data[Math.floor(p.y) * width + Math.floor(p.x)]] : background;
              expect(out[y * screen.width + x]).toBe(expected);
            }
          }
        }
      }
    }
  );
  it('draws colour through the table, channel by channel', () => {
    const out = new Uint32Array(1);
    render({
      level: {
        raster: { width: 1, height: 1, channels: 3, bitsStored: 8, offset: 0, data: Uint8Array.of(1, 2, 3) },
        factor: 1
      },
      picture: { width: 1, height: 1 },
      orientation: { quarterTurns: 0, mirrored: false },
      view: { center: { x: 0.5, y: 0.5 }, zoom: 1 },
      screen: { width: 1, height: 1 },
      table: Uint32Array.from({ length: 256 }, (_, i) => i * 10),
      out,
      background
    });
    expect(out[0].toString(16)).toBe('ff1e140a');
  });
});
