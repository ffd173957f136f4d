import { type LevelLook, preparedForLevel, throughLook } from '../core/raster/look/levels';
import type { Look } from '../core/raster/look/look';
import { KeptSteps } from '../core/raster/look/apply';
import { type Window, contains } from '../core/raster/patch';
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
const roughSide = 300;
/** So few samples are made at once, exactly. */
const atOnce = 90_000;

/** The last that one window onto a picture has seen through such a look, so that moving about costs nothing. */
export class LookedView {
  private fine: { key: string; level: Level; window: Window } | null = null;
  private rough: { key: string; level: Level } | null = null;
  /** The coarse level that first answers are made from. */
  private coarse: { of: string; raster: Raster; factor: number } | null = null;
  /** For each channel. */
  private kept: { of: string; steps: KeptSteps[] } | null = null;
  private ready: { key: string; look: LevelLook } | null = null;

  /** What can be shown now; `final` is whether it is as sharp as the level. */
  now(wish: LookedWish): { level: Level; final: boolean } {
    const key = keyOf(wish);
    if (this.fine?.key === key && contains(this.fine.window, wish.window))
      return { level: this.fine.level, final: true };
    if (wish.window.width * wish.window.height <= atOnce) return { level: this.made(wish), final: true };
    if (this.rough?.key !== key) this.rough = { key, level: this.roughly(wish) };
    return { level: this.rough.level, final: false };
  }

  /** Makes what is in sight as sharp as the level. */
  made(wish: LookedWish): Level {
    const { raster, factor, window, look } = wish;
    const key = keyOf(wish);
    if (this.kept?.of !== wish.of)
      this.kept = { of: wish.of, steps: Array.from({ length: raster.channels }, () => new KeptSteps()) };
    if (this.ready?.key !== key) this.ready = { key, look: preparedForLevel(look, raster, factor) };
    const level = {
      raster: throughLook(this.ready.look, window, this.kept.steps),
      factor,
      left: window.left,
      top: window.top
    };
    this.fine = { key, level, window };
    return level;
  }

  /** The whole picture through the look, coarsely. */
  private roughly({ of, raster, factor, look }: LookedWish): Level {
    if (this.coarse?.of !== of) {
      let [coarse, at] = [raster, factor];
      while (Math.max(coarse.width, coarse.height) > roughSide) [coarse, at] = [halved(coarse), at * 2];
      this.coarse = { of, raster: coarse, factor: at };
    }
    const { coarse } = this;
    return {
      raster: throughLook(preparedForLevel(look, coarse.raster, coarse.factor)),
      factor: coarse.factor
    };
  }
}

const keyOf = ({ of, look }: LookedWish) => `${of} ${JSON.stringify(look)}`;
