import { SvelteSet } from 'svelte/reactivity';
import { toast } from 'svelte-sonner';
import type { Place } from '$core/anatomy/place';
import type { ArrivalView, BundleView, NearVisit, PersonProposed } from '$core/arrivals/arrivalView';
import type { IntakeView } from '$core/arrivals/intakeView';
import type { PersonSaid } from '$core/people/whose';
import { ask, attempt, sendOr } from '../net/send';
import type { PickedPatient } from '../people/pickedPatient';
import { countWords } from '../words';

/** Whose a bundle may be. */
export interface Whose {
  proposed: PersonProposed[];
  certain: boolean;
  near: NearVisit[];
  said: PersonSaid | null;
}

/** What somebody has said of an arrival before it is given; what is not said is as it is proposed. */
interface Told {
  name?: string;
  places?: Place[];
  takenAt?: string;
}

const nobody: Whose = { proposed: [], certain: false, near: [], said: null };

/** The sorting desk: bundles, the one that is looked at, and what was said of it so far. */
export class Desk {
  bundles = $state.raw<BundleView[]>([]);
  intakes = $state.raw<IntakeView[]>([]);
  away = $state(false);
  bundleId = $state('');
  arrivals = $state.raw<ArrivalView[]>([]);
  whose = $state.raw<Whose>(nobody);
  loading = $state(false);
  arrivalId = $state('');
  frame = $state(0);
  /** Ticked within the bundle; none means all of it. */
  picked = new SvelteSet<string>();
  whom = $state.raw<PickedPatient | null>(null);
  visitId = $state('');
  told = $state<Record<string, Told>>({});

  constructor(bundles: BundleView[], intakes: IntakeView[]) {
    this.bundles = bundles;
    this.intakes = intakes;
  }

  listed = $derived(this.bundles.filter(({ putAway }) => putAway === this.away));
  bundle = $derived(this.listed.find(({ bundleId }) => bundleId === this.bundleId) ?? this.listed[0] ?? null);
  shown = $derived(
    this.arrivals.find(({ arrivalId }) => arrivalId === this.arrivalId) ?? this.arrivals[0] ?? null
  );
  /** Those that an act is about: what is ticked, else the whole bundle. */
  meant = $derived(
    this.picked.size > 0 ? this.arrivals.filter(({ arrivalId }) => this.picked.has(arrivalId)) : this.arrivals
  );

  async renew(): Promise<void> {
    const { bundles, intakes } = await sendOr<{ bundles: BundleView[]; intakes: IntakeView[] }>(
      '/api/arrivals',
      {
        bundles: this.bundles,
        intakes: this.intakes
      }
    );
    this.bundles = bundles;
    this.intakes = intakes;
    const now = this.bundle;
    if (now && now.count !== this.arrivals.length && now.bundleId === this.loadedId)
      await this.load(now.bundleId, true);
  }

  private loadedId = '';

  /** Fetches what lies in a bundle and whose it may be. */
  async load(bundleId: string, again = false): Promise<void> {
    this.loadedId = bundleId;
    // What is looked at stays, whatever comes in above it.
    this.bundleId = bundleId;
    if (!again) {
      this.loading = true;
      this.picked.clear();
      this.whom = null;
      this.visitId = '';
      this.whose = nobody;
      this.arrivals = [];
      this.arrivalId = '';
      this.frame = 0;
    }
    const url = `/api/arrivals/bundles/${bundleId}`;
    const [{ arrivals }, whose] = await Promise.all([
      sendOr<{ arrivals: ArrivalView[] }>(url, { arrivals: [] }),
      sendOr<Whose>(`${url}/whose`, nobody)
    ]);
    if (this.loadedId !== bundleId) return;
    this.arrivals = arrivals;
    this.whose = whose;
    this.loading = false;
    for (const id of [...this.picked])
      if (!arrivals.some(({ arrivalId }) => arrivalId === id)) this.picked.delete(id);
  }

  /** The bundle above or below. */
  step(by: number): void {
    const at = this.listed.findIndex(({ bundleId }) => bundleId === this.bundle?.bundleId);
    const next = this.listed[Math.max(0, Math.min(this.listed.length - 1, at + by))];
    if (next) this.bundleId = next.bundleId;
  }

  /** The next frame, and after the last one the next picture of the bundle. */
  turn(by: number): void {
    const { shown } = this;
    if (!shown) return;
    const frame = this.frame + by;
    if (shown.kind !== 'paper' && frame >= 0 && frame < shown.frames) {
      this.frame = frame;
      return;
    }
    const next = this.arrivals[this.arrivals.indexOf(shown) + by];
    if (!next) return;
    this.arrivalId = next.arrivalId;
    this.frame = by < 0 && next.kind !== 'paper' ? next.frames - 1 : 0;
  }

  show(arrivalId: string): void {
    this.arrivalId = arrivalId;
    this.frame = 0;
  }

  tick(arrivalId: string): void {
    if (!this.picked.delete(arrivalId)) this.picked.add(arrivalId);
  }

  placesOf = (arrival: ArrivalView): Place[] => this.told[arrival.arrivalId]?.places ?? arrival.shows.places;
  nameOf = (arrival: ArrivalView): string => this.told[arrival.arrivalId]?.name ?? nameProposed(arrival);
  takenOf = (arrival: ArrivalView): string => this.told[arrival.arrivalId]?.takenAt ?? arrival.takenAt;

  tell(arrivals: readonly ArrivalView[], what: Told): void {
    for (const { arrivalId } of arrivals) this.told[arrivalId] = { ...this.told[arrivalId], ...what };
  }

  /** Where the selection goes once what is looked at has gone. */
  private leave(): void {
    if (this.meant.length < this.arrivals.length) return;
    const at = this.listed.findIndex(({ bundleId }) => bundleId === this.bundle?.bundleId);
    this.bundleId = (this.listed[at + 1] ?? this.listed[at - 1])?.bundleId ?? '';
  }

  /** Gives what is meant to a visit, or to a new one of its day. */
  async give(
    to: { visitId: string } | { patientId: string; roomId: string; at: string },
    whom: string,
    slot: { trayId: string; slotId: string } | null
  ): Promise<boolean> {
    const given = this.meant;
    const each = given.map((arrival, i) => ({
      arrivalId: arrival.arrivalId,
      name: this.nameOf(arrival),
      places: this.placesOf(arrival),
      takenAt: this.told[arrival.arrivalId]?.takenAt ?? null,
      ...(i === 0 ? slot : null)
    }));
    const done = await attempt(() => ask('/api/arrivals/give', { to, each }));
    if (!done) return false;
    this.leave();
    toast.info(given.length === 1 ? `Given to ${whom}.` : `${given.length} given to ${whom}.`);
    await this.after();
    return true;
  }

  async sort(kind: 'split' | 'put-away' | 'bring-back' | 'to-chart'): Promise<void> {
    const arrivalIds = this.meant.map(({ arrivalId }) => arrivalId);
    if (arrivalIds.length === 0) return;
    let split = '';
    const done = await attempt(async () => {
      split = (await ask<{ bundleId: string }>('/api/arrivals/sort', { kind, arrivalIds })).bundleId;
    });
    if (!done) return;
    if (kind === 'split')
      toast.info(
        `${countWords(arrivalIds.length, 'picture lies', 'pictures lie')} in a bundle of their own.`
      );
    else this.leave();
    await this.after();
    if (kind === 'split') this.bundleId = split;
  }

  /** What is meant goes back to whoever sent it, with a word, and is put away here. */
  async sendBack(words: string): Promise<boolean> {
    const arrivalIds = this.meant.map(({ arrivalId }) => arrivalId);
    const { address } = this.bundle!;
    if (!(await attempt(() => ask('/api/arrivals/send-back', { arrivalIds, words })))) return false;
    toast.info(`Sent back to ${address}. Here it is put away.`);
    this.leave();
    await this.after();
    return true;
  }

  async join(bundleId: string, other: string): Promise<void> {
    if (bundleId === other) return;
    if (!(await attempt(() => ask('/api/arrivals/sort', { kind: 'join', bundleId, with: other })))) return;
    this.bundleId = other;
    await this.after();
  }

  /** A series is the pictures again that it was made of. */
  async singly(arrivalId: string): Promise<void> {
    const wish = { kind: 'singly', arrivalIds: [arrivalId] };
    if (await attempt(() => ask('/api/arrivals/sort', wish))) await this.after();
  }

  async note(remark: string): Promise<void> {
    const arrivalIds = this.meant.map(({ arrivalId }) => arrivalId);
    if (await attempt(() => ask('/api/arrivals/sort', { kind: 'note', arrivalIds, remark })))
      await this.after();
  }

  private async after(): Promise<void> {
    this.picked.clear();
    await this.renew();
    if (this.bundle) await this.load(this.bundle.bundleId, this.bundle.bundleId === this.loadedId);
  }
}

/** What a view would be called: not what only its file was called. */
const nameProposed = ({ title, shows }: ArrivalView): string => title || (shows.lacks ? '' : shows.name);
