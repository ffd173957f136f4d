import { lacking } from '$core/measurement/guides/lacking';
import { type WrittenMeasure, measureKinds } from '$core/measurement/guides/writtenMeasures';
import {
  type WrittenGuide,
  type WrittenResult,
  writtenGuideSchema
} from '$core/measurement/guides/writtenSchema';

type View = WrittenGuide['views'][number];
type Landmark = View['landmarks'][number];

/** Keys that nothing has yet: `p1`, `p2` ... */
function freeKey(letter: string, taken: readonly { key: string }[]): string {
  let n = 1;
  while (taken.some(({ key }) => key === `${letter}${n}`)) n++;
  return `${letter}${n}`;
}
const within = (share: number) => Math.max(0, Math.min(1, share));
/** So fine are places on a sheet kept. */
const fine = (share: number) => Math.round(1000 * within(share)) / 1000;

export const newGuide = (trade: WrittenGuide['trade']): WrittenGuide => ({
  format: 'yonder-tray guide',
  formatVersion: 1,
  name: '',
  trade,
  views: [{ key: 'v1', name: 'From the front', drawing: null, landmarks: [], lines: [] }],
  results: []
});

/** A guide while it is written: kept on this machine at every change, so that closing the page loses nothing. */
export class GuideDraft {
  guide: WrittenGuide = $state()!;
  viewKey = $state('');
  landmarkKey = $state<string | null>(null);

  constructor(
    private readonly key: string,
    start: WrittenGuide
  ) {
    this.set(start);
  }

  private set(guide: WrittenGuide): void {
    this.guide = structuredClone(guide);
    this.viewKey = guide.views[0].key;
    this.landmarkKey = null;
  }

  readonly view: View = $derived.by(
    () => this.guide.views.find(({ key }) => key === this.viewKey) ?? this.guide.views[0]
  );
  readonly chosen: Landmark | null = $derived.by(
    () => this.view.landmarks.find(({ key }) => key === this.landmarkKey) ?? null
  );
  readonly lacks: string | null = $derived.by(() => lacking(this.guide));

  /** Takes up what was left unfinished here before. @returns whether there was any */
  takeUp(): boolean {
    try {
      const left = JSON.parse(localStorage.getItem(this.key) ?? 'null') as WrittenGuide | null;
      // Half a guide is none yet: its parts have to be there, whatever they still lack.
      if (!Array.isArray(left?.views) || left.views.length === 0 || !Array.isArray(left.results))
        return false;
      this.set(left);
      return true;
    } catch {
      return false;
    }
  }
  keep(): void {
    localStorage.setItem(this.key, JSON.stringify(this.guide));
  }
  forget(): void {
    localStorage.removeItem(this.key);
  }
  /** As it is kept. @throws ZodError where something is lacking */
  finished(): WrittenGuide {
    return writtenGuideSchema.parse($state.snapshot(this.guide));
  }

  addView(): void {
    const { views } = this.guide;
    const key = freeKey('v', views);
    views.push({ key, name: `View ${views.length + 1}`, drawing: null, landmarks: [], lines: [] });
    this.viewKey = key;
    this.landmarkKey = null;
  }
  removeView(): void {
    const { key } = this.view;
    this.guide.results = this.guide.results.filter(({ view }) => view !== key);
    this.guide.views = this.guide.views.filter((each) => each.key !== key);
    this.viewKey = this.guide.views[0].key;
    this.landmarkKey = null;
  }

  addLandmark(x = 0.5, y = 0.5): void {
    const { landmarks } = this.view;
    const key = freeKey('p', landmarks);
    landmarks.push({ key, name: '', where: '', x: fine(x), y: fine(y) });
    this.landmarkKey = key;
  }
  move(landmark: Landmark, x: number, y: number): void {
    landmark.x = fine(x);
    landmark.y = fine(y);
  }
  removeLandmark({ key }: Landmark): void {
    const { view } = this;
    view.landmarks = view.landmarks.filter((each) => each.key !== key);
    view.lines = view.lines.filter((ends) => !ends.includes(key));
    for (const result of this.guide.results)
      if (result.view === view.key) result.of = result.of.map((each) => (each === key ? '' : each));
    this.landmarkKey = null;
  }
  isJoined(a: string, b: string): boolean {
    return this.view.lines.some((ends) => ends.includes(a) && ends.includes(b));
  }
  /** A line between two landmarks, or none where one is. */
  join(a: string, b: string): void {
    const { view } = this;
    if (this.isJoined(a, b))
      view.lines = view.lines.filter((ends) => !(ends.includes(a) && ends.includes(b)));
    else view.lines.push([a, b]);
  }

  addResult(): void {
    const { results } = this.guide;
    const former = results.at(-1)?.source;
    results.push({
      key: freeKey('r', results),
      name: '',
      measure: 'length',
      view: this.view.key,
      of: ['', ''],
      // Results of one guide mostly come from one place.
      source: former ? { ...former } : { author: '', year: new Date().getFullYear(), title: '' },
      normal: null,
      mind: ''
    });
  }
  removeResult({ key }: WrittenResult): void {
    this.guide.results = this.guide.results.filter((each) => each.key !== key);
  }
  measureBy(result: WrittenResult, measure: WrittenMeasure): void {
    const { least, most } = measureKinds[measure];
    result.measure = measure;
    result.of = Array.from(
      { length: Math.min(most, Math.max(least, result.of.length)) },
      (_, i) => result.of[i] ?? ''
    );
  }
}
