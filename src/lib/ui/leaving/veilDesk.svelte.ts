import { type Veil, type Veils, noVeils } from '$core/picture/layers/veils/veils';
import { type Area, overlap } from '$core/raster/area';
import type { PictureView } from '$core/picture/pictureView';
import { Refused, ask, attempt, send } from '../net/send';

/** Writing that was found in a picture, as the server tells it. */
export interface Found extends Area {
  frames?: number[];
  reads: 'along' | 'up or down';
  sure: number;
  says: string;
  saysSure: number;
}

/** So much of a proposal has to be covered that it counts as masked. */
const coveredShare = 0.9;

/** What is masked of one picture, and what was found that could be: each change is kept as it is made. */
export class VeilDesk {
  readonly pictureId: string;
  veils = $state.raw<Veils>(noVeils);
  found = $state.raw<Found[] | null>(null);
  looking = $state(false);
  trouble = $state('');
  private stopLooking: AbortController | null = null;

  constructor(private readonly picture: PictureView) {
    this.pictureId = picture.pictureId;
    this.veils = picture.layers.veils ?? noVeils;
  }

  /** Whether a proposal lies under a veil already, or outside the part that alone is kept. */
  isCovered(box: Area & { frames?: number[] }): boolean {
    const { veils, only } = this.veils;
    if (only && overlap(only, box) === 0) return true;
    return veils.some(
      (veil) =>
        (veil.frames === undefined ||
          (box.frames?.every((frame) => veil.frames!.includes(frame)) ?? false)) &&
        shareIn(box, veil) >= coveredShare
    );
  }

  get open(): Found[] {
    return (this.found ?? []).filter((each) => !this.isCovered(each));
  }

  async look(): Promise<void> {
    this.stop();
    const stop = (this.stopLooking = new AbortController());
    this.looking = true;
    this.trouble = '';
    try {
      const answer = await fetch(`/api/pictures/${this.pictureId}/writing`, { signal: stop.signal });
      const said = (await answer.json()) as { writing?: Found[]; sentence?: string };
      if (said.writing) this.found = said.writing;
      else this.trouble = said.sentence ?? 'Writing could not be looked for.';
    } catch {
      if (!stop.signal.aborted)
        this.trouble = 'Writing could not be looked for: Yonder Tray does not answer.';
    } finally {
      if (this.stopLooking === stop) this.looking = false;
    }
  }

  stop(): void {
    this.stopLooking?.abort();
    this.stopLooking = null;
    this.looking = false;
  }

  /** Veils changed: whoever looked before has to look again. */
  private change(veils: Partial<Veils>): Promise<boolean> {
    return this.keep({ ...this.veils, looked: false, ...veils });
  }

  /** Acts are kept one after the other, in the order they were made. */
  private line: Promise<unknown> = Promise.resolve();
  private waiting = 0;

  keep(veils: Veils, also: string[] = []): Promise<boolean> {
    const before = this.veils;
    this.veils = veils;
    this.waiting += 1;
    const kept = this.line.then(async () => {
      const done = await attempt(async () => {
        const { seq } = await ask<{ seq: number }>(`/api/pictures/${this.pictureId}/veils`, { veils, also });
        this.newest = Math.max(this.newest, seq);
      });
      this.waiting -= 1;
      if (!done && this.veils === veils) this.veils = before;
      return done;
    });
    this.line = kept;
    return kept;
  }

  /** The newest step that one's own acts made: what was fetched before it is news no more. */
  private newest = 0;

  /** What the records have, once nothing of one's own is on its way there. */
  hear(veils: Veils | null, seq: number): void {
    if (this.waiting === 0 && seq >= this.newest) this.veils = veils ?? noVeils;
  }

  add = (veil: Veil) => this.change({ veils: [...this.veils.veils, within(veil, this.picture)] });
  addAll = (all: readonly Found[]) =>
    this.change({ veils: [...this.veils.veils, ...all.map((each) => veilOf(each, this.picture))] });
  drop = (index: number) => this.change({ veils: this.veils.veils.filter((_, i) => i !== index) });
  replace = (index: number, veil: Veil) =>
    this.change({
      veils: this.veils.veils.map((each, i) => (i === index ? within(veil, this.picture) : each))
    });
  keepOnly = (only: Area | null) => this.change({ only: only && within(only, this.picture) });
  sayLooked = () => this.keep({ ...this.veils, looked: true });
  /** The same veils on others of its series. */
  layOn = (also: string[]) => this.keep(this.veils, also);
}

/** A veil over what was found, with a rim: letters have soft edges. */
function veilOf(
  { left, top, width, height, frames }: Found,
  picture: { width: number; height: number }
): Veil {
  const rim = Math.max(2, Math.round(0.15 * Math.min(width, height)));
  const box = { left: left - rim, top: top - rim, width: width + 2 * rim, height: height + 2 * rim };
  return { ...within(box, picture), ...(frames ? { frames } : {}) };
}

function within<A extends Area>(area: A, picture: { width: number; height: number }): A {
  const left = Math.max(0, Math.min(picture.width - 1, Math.round(area.left)));
  const top = Math.max(0, Math.min(picture.height - 1, Math.round(area.top)));
  return {
    ...area,
    left,
    top,
    width: Math.max(1, Math.min(picture.width, Math.round(area.left + area.width)) - left),
    height: Math.max(1, Math.min(picture.height, Math.round(area.top + area.height)) - top)
  };
}

/** The share of a box that lies in an area. */
function shareIn(box: Area, area: Area): number {
  const w = Math.min(box.left + box.width, area.left + area.width) - Math.max(box.left, area.left);
  const h = Math.min(box.top + box.height, area.top + area.height) - Math.max(box.top, area.top);
  return w > 0 && h > 0 ? (w * h) / (box.width * box.height) : 0;
}

/** What would leave of a visit, by a rule. */
export async function leavingOf<T>(
  visitId: string,
  pictureIds: string[],
  ruleId: string | null
): Promise<T | string> {
  try {
    return await send<T>('POST', `/api/visits/${visitId}/leaving`, { pictureIds, ruleId });
  } catch (error) {
    if (error instanceof Refused) return `${error.sentence} ${error.next}`;
    throw error;
  }
}
