import { type AdvisedGaze, type Coverage, advisedGaze, heldLids } from '../core/cornea/coverage';
import { type CorneaMap, type MapKind, corneaMap } from '../core/cornea/corneaMap';
import type { Range } from '../core/cornea/fitTake';
import type { TakeToJoin } from '../core/cornea/join';
import { type MeasuredCornea, sheetCornea, takeCornea } from '../core/cornea/measured';
import { type MissingArea, missingAreas } from '../core/cornea/missing';
import { type CaptureQuality, qualityOf } from '../core/cornea/quality';
import { type TakeRead, readingTake } from '../core/cornea/readTake';
import { ringsIn } from '../core/cornea/rings';
import { type TakeVerdict, judgingSheet } from '../core/cornea/spoilt';
import { SurfaceReader } from '../core/cornea/surface';
import { quillTarget } from '../core/cornea/target';
import { type CorneaValues, corneaValues } from '../core/cornea/values';
import type { Raster } from '../core/raster/raster';
import { type Progress, type LongWork, paced } from '../core/longWork';

/** One picture of an eye, where it was asked to look, and what the range finder said. */
export interface EyePicture {
  raster: Raster;
  gazeRightDeg: number;
  gazeUpDeg: number;
  range?: Range;
}

export type TakeSaid =
  | { outcome: 'read'; quality: CaptureQuality; rmsUm: number; converged: boolean }
  | { outcome: 'not read'; because: string };

export interface SheetSaid {
  /** Of every take, by its key. */
  verdicts: Record<string, TakeVerdict>;
  /** Keys of those that were joined. */
  joined: string[];
  rmsUm: number;
  coverage: Coverage;
  missing: MissingArea[];
  /** Null when no gaze would add anything worth a take. */
  advised: AdvisedGaze | null;
}

interface Kept {
  read: Extract<TakeRead, { outcome: 'read' }>;
  toJoin: TakeToJoin;
  cornea: MeasuredCornea | null;
}

/** The joined sheet's name among the takes' keys. */
export const sheetKey = 'sheet';

/**
 * The takes of one eye, kept as they come in and joined when asked. Long work tells how far it is after each round, and
 * `stop` ends it there: what was read before stays.
 */
export class Corneas {
  private readonly takes = new Map<string, Kept>();
  private sheet: MeasuredCornea | null = null;
  private stops = 0;

  constructor(private readonly target = quillTarget) {}

  /** Whether to keep a picture, in a fraction of a second; nothing is kept of it. */
  quality(raster: Raster): CaptureQuality | { because: string } {
    const found = ringsIn(raster, this.target);
    return found.outcome === 'found' ? qualityOf(found.rings, this.target) : { because: found.because };
  }

  /** Reads a picture and keeps its surface under a key, in place of what was there; one that gives nothing replaces nothing. */
  async read(key: string, picture: EyePicture, told?: (progress: Progress) => void): Promise<TakeSaid> {
    if (key === sheetKey) throw new RangeError(`“${sheetKey}” is the joined sheet's name, not a take's`);
    const { raster, gazeRightDeg, gazeUpDeg, range } = picture;
    const read = await this.run(readingTake(raster, this.target, range), told);
    if (read.outcome === 'not read') return read;
    this.drop(key);
    const { fit, quality } = read;
    this.takes.set(key, { read, toJoin: { fit, gazeRightDeg, gazeUpDeg }, cornea: null });
    return { outcome: 'read', quality, rmsUm: fit.rmsUm, converged: fit.converged };
  }

  drop(key: string): void {
    this.takes.delete(key);
    this.sheet = null;
  }

  /**
   * Joins the takes of these keys, the first of which says what straight ahead is.
   * Rejects with a sentence when they can't be joined.
   */
  async join(keys: readonly string[], told?: (progress: Progress) => void): Promise<SheetSaid> {
    const kept = keys.map((key) => this.kept(key));
    const takes = kept.map(({ toJoin }) => toJoin);
    const judged = await this.run(
      judgingSheet(
        takes,
        kept.map(({ read }) => read.quality),
        this.target
      ),
      told
    );
    // Takes may be read anew or dropped while others have their turn.
    if (kept.some((each, i) => this.takes.get(keys[i]) !== each))
      throw new RangeError('a take was changed while they were joined: join them again');
    const { sheet, joined, verdicts } = judged;
    this.sheet = sheetCornea(
      sheet,
      joined.map((i) => takes[i])
    );
    const { coverage } = this.sheet;
    const standing = sheet.takes[0].pose;
    return {
      verdicts: Object.fromEntries(keys.map((key, i) => [key, verdicts[i]])),
      joined: joined.map((i) => keys[i]),
      rmsUm: sheet.rmsUm,
      coverage,
      missing: missingAreas(coverage),
      advised: advisedGaze(new SurfaceReader(sheet.surface), coverage, standing, this.target, heldLids)
    };
  }

  /** A map of one take, or of the sheet. */
  map(key: string, kind: MapKind, more?: { stepMm?: number; radiusMm?: number }): CorneaMap {
    return corneaMap(this.cornea(key), kind, more);
  }

  values(key: string): CorneaValues {
    return corneaValues(this.cornea(key));
  }

  /** Ends the reading and joining that is going on; each rejects with `Stopped`. */
  stop(): void {
    this.stops++;
  }

  private run<T>(steps: LongWork<T>, told?: (progress: Progress) => void): Promise<T> {
    const { stops } = this;
    return paced(steps, { turn: nextTurn, wanted: () => stops === this.stops, told });
  }

  private kept(key: string): Kept {
    const kept = this.takes.get(key);
    if (!kept) throw new RangeError(`no take “${key}” has been read`);
    return kept;
  }

  private cornea(key: string): MeasuredCornea {
    if (key === sheetKey) {
      if (!this.sheet) throw new RangeError('the takes have not been joined since the last one was read');
      return this.sheet;
    }
    const kept = this.kept(key);
    return (kept.cornea ??= takeCornea(kept.read.fit));
  }
}

/** After whatever else waits to be done; unlike a timer, never later. */
function nextTurn(): Promise<void> {
  return new Promise((resolve) => {
    const { port1, port2 } = new MessageChannel();
    port1.onmessage = () => {
      port1.close();
      resolve();
    };
    port2.postMessage(null);
  });
}
