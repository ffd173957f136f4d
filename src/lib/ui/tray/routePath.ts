import type { WellFrame } from '$core/tray/layout';

/** A route: a smooth thin line through the middles of the wells in the order they are taken. */
export function routePath(frames: readonly WellFrame[]): string {
  const middle = ({ left, top, width, height }: WellFrame) => ({ x: left + width / 2, y: top + height / 2 });
  return frames
    .map((frame, i) => {
      const c = middle(frame);
      if (i === 0) return `M${c.x} ${c.y}`;
      const before = middle(frames[i - 1]);
      const bend = (c.x - before.x) / 2;
      return `C${before.x + bend} ${before.y} ${c.x - bend} ${c.y} ${c.x} ${c.y}`;
    })
    .join('');
}
