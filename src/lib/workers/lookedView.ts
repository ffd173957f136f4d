import { type LevelLook, preparedForLevel, throughLook } from '../core/raster/look/levels';
import type { Look } from '../core/raster/look/look';
import type { Window } from '../core/raster/patch';
import { halved } from '../core/raster/pyramid';
import type { Raster } from '../core/raster/raster';
import type { Level } from '../core/raster/render';

/** What is to be seen through a look that looks at neighbours: a level of a picture, and the part of it in sight. */
export interface LookedWish {
  /** Tells pictures, frames and levels apart. */
  of: string;
  look: Look;
  raster: Raster;
  factor: number;
  /** In samples of the level. */
  window: Window;
}

/** A first answer is made from a level with at most so many samples on its longer side. */
const roughSide = 420;
/** So few samples are made at once, exactly. */
const atOnce = 90_000;

/** The last that one window onto a picture has seen through such a look, so that moving about costs nothing. */
export class LookedView {
  private fine: { key: string; level: Level; window: Window } | null = null;
  private rough: { key: string; level: Level } | null = null;
  private ready: { key: string; look: LevelLook } | null = null;

  /** What can be shown now; `final` is whether it is as sharp as the level. */
  now(wish: LookedWish): { level: Level; final: boolean } {
    const key = keyOf(wish);
    if (this.fine?.key === key && covers(this.fine.window, wish.window))
      return { level: this.fine.level, final: true };
    if (wish.window.width * wish.window.height <= atOnce) return { level: this.made(wish), final: true };
    if (this.rough?.key !== key) this.rough = { key, level: roughly(wish) };
    return { level: this.rough.level, final: false };
  }

  /** Makes what is in sight as sharp as the level. */
  made(wish: LookedWish): Level {
    const { raster, factor, window, look } = wish;
    const key = keyOf(wish);
    if (this.ready?.key !== key) this.ready = { key, look: preparedForLevel(look, raster, factor) };
    const level = {
      raster: throughLook(this.ready.look, window),
      factor,
      left: window.left,
      top: window.top
    };
    this.fine = { key, level, window };
    return level;
  }
}

const keyOf = ({ of, look }: LookedWish) => `${of} ${JSON.stringify(look)}`;

/** The whole picture through the look, coarsely. */
function roughly({ raster, factor, look }: LookedWish): Level {
  let [coarse, at] = [raster, factor];
  while (Math.max(coarse.width, coarse.height) > roughSide) [coarse, at] = [halved(coarse), at * 2];
  return { raster: throughLook(preparedForLevel(look, coarse, at)), factor: at };
}

const covers = (outer: Window, inner: Window): boolean =>
  inner.left >= outer.left &&
  inner.top >= outer.top &&
  inner.left + inner.width <= outer.left + outer.width &&
  inner.top + inner.height <= outer.top + outer.height;
