import { SvelteMap } from 'svelte/reactivity';
import { toast } from 'svelte-sonner';
import { type Method, Refused, send } from './send';
import { sendFile } from './sendFile';
import { type Change, type StoredChange, type WaitingStore, openWaitingStore } from './waitingStore';

/** What is asked of the outbox. */
export interface Put {
  url: string;
  body: unknown;
  lane: string;
  words: string;
  method?: 'POST' | 'DELETE';
  file?: Blob;
}

/** A change as pages look at it: waiting, or kept by the server as its so-manyeth step. */
export interface PendingChange extends Change {
  /** 0 until it is on this machine's disk. */
  order: number;
  /** The step of its picture or tray that it became; null while the server does not have it. */
  keptAs: number | null;
}

type Answer = Record<string, unknown>;
type Told = { kind: 'waiting' } | { kind: 'kept'; key: string; answer: Answer };

const channelName = 'yonder-outbox';
const firstAgainMs = 1_000;
const lastAgainMs = 30_000;
/** Statuses of a server that can't take anything now; later it can. */
const passing = (status: number) => status === 0 || status === 408 || status === 429 || status >= 500;
/** A fault of the server's own over one change: tried so often, then it is set aside, so that what is behind it goes. */
const fault = 500;
const mostFaults = 3;

/**
 * Changes made on this machine that the server does not have yet. They wait in the browser's database, each under a key
 * of its own, and are offered until the server has them: across reloads, sign-outs and days without network, once each,
 * and never in somebody else's name. What the server can never take is kept and shown until its maker puts it away.
 */
class Outbox {
  /** The changes of whoever is signed in, in the order they were made. */
  changes = $state.raw<PendingChange[]>([]);
  /** How many changes of others wait on this machine. */
  ofOthers = $state(0);
  held = $state<'no' | 'unreachable' | 'signed-out'>('no');
  durable = $state(true);
  /** Shares of files that have been sent, by key. */
  sent = new SvelteMap<string, number>();

  private userId: string | null = null;
  private store: Promise<WaitingStore> | null = null;
  private channel: BroadcastChannel | null = null;
  private lanes = new Set<string>();
  private waiters = new Map<string, (answer: Answer | null) => void>();
  private followers = new Set<(change: PendingChange, answer: Answer) => void>();
  private again: ReturnType<typeof setTimeout> | null = null;
  private againMs = firstAgainMs;
  /** How often the server failed over each change, by key. */
  private faults = new Map<string, number>();

  readonly refused = $derived(this.changes.filter((change) => change.refused !== null));
  readonly waiting = $derived(
    this.changes.filter((change) => change.refused === null && change.keptAs === null)
  );

  /** Begins to offer what this person has waiting here; with null, only counts what waits. Returns how to stop. */
  start(userId: string | null): () => void {
    this.userId = userId;
    this.held = 'no';
    this.store ??= openWaitingStore();
    this.channel = new BroadcastChannel(channelName);
    this.channel.onmessage = ({ data }: MessageEvent<Told>) => void this.hear(data);
    void this.store.then(async (store) => {
      this.durable = store.durable;
      await this.read();
      this.go();
    });
    return () => {
      this.userId = null;
      this.changes = [];
      this.channel?.close();
      this.channel = null;
      if (this.again) clearTimeout(this.again);
      this.again = null;
    };
  }

  /** Keeps a change on this machine and offers it. Resolves with the server's answer, or null when it refuses. */
  put({ url, body, lane, words, method = 'POST', file }: Put): Promise<Answer | null> {
    const { userId } = this;
    if (userId === null) throw new Error('nobody is signed in');
    const change: Change = {
      key: crypto.randomUUID(),
      userId,
      method,
      url,
      body,
      file: file ?? null,
      lane,
      words,
      madeAt: new Date().toISOString(),
      refused: null
    };
    this.changes = [...this.changes, { ...change, order: 0, keptAs: null }];
    const done = new Promise<Answer | null>((resolve) => this.waiters.set(change.key, resolve));
    void this.keep(change);
    return done;
  }

  /** Tells about each change that the server has taken. Returns how to stop. */
  follow(follower: (change: PendingChange, answer: Answer) => void): () => void {
    this.followers.add(follower);
    return () => this.followers.delete(follower);
  }

  /** Something says that the server can be reached: all lanes are tried at once. */
  retry(): void {
    if (this.held !== 'signed-out') this.go();
  }

  /** Offers a refused change once more. */
  async offerAgain(key: string): Promise<void> {
    const change = this.changes.find((each) => each.key === key);
    if (!change?.refused) return;
    const { keptAs: _, ...stored } = change;
    await (await this.store!).put({ ...stored, refused: null });
    this.faults.delete(key);
    this.replace(key, { refused: null });
    this.tell({ kind: 'waiting' });
    this.go();
  }

  /** Takes a refused change, or one that its maker gives up, off this machine. */
  async remove(key: string): Promise<void> {
    const store = await this.store!;
    const change = this.changes.find((each) => each.key === key);
    if (change) await store.remove(change.order);
    this.forget(key);
    this.waiters.get(key)?.(null);
    this.waiters.delete(key);
    this.tell({ kind: 'waiting' });
  }

  /** Lets go of a kept change once the page shows it as the server has it. */
  forget(key: string): void {
    this.changes = this.changes.filter((change) => change.key !== key);
    this.sent.delete(key);
  }

  private async keep(change: Change): Promise<void> {
    const stored = await (await this.store!).add(change);
    this.replace(stored.key, { order: stored.order });
    this.tell({ kind: 'waiting' });
    this.go();
  }

  private replace(key: string, by: Partial<PendingChange>): void {
    this.changes = this.changes.map((change) => (change.key === key ? { ...change, ...by } : change));
  }

  private tell(told: Told): void {
    this.channel?.postMessage(told);
  }

  private async hear(told: Told): Promise<void> {
    if (told.kind === 'kept') this.taken(told.key, told.answer);
    await this.read();
  }

  /** What waits as the browser's database has it; what is kept but not yet shown so stays. */
  private async read(): Promise<void> {
    const all = await (await this.store!).all();
    const mine = all.filter((change) => change.userId === this.userId);
    this.ofOthers = all.length - mine.length;
    const known = new Map(this.changes.map((change) => [change.key, change]));
    const stored = new Set(mine.map((change) => change.key));
    this.changes = [
      ...this.changes.filter(
        (change) => change.keptAs !== null || (change.order === 0 && !stored.has(change.key))
      ),
      ...mine
        .filter((change) => known.get(change.key)?.keptAs == null)
        .map((change): PendingChange => ({ ...change, keptAs: null }))
    ];
  }

  private go(): void {
    if (this.userId === null) return;
    if (this.again) clearTimeout(this.again);
    this.again = null;
    const lanes = new Set(this.waiting.filter((change) => change.order > 0).map((change) => change.lane));
    for (const lane of lanes) {
      if (this.lanes.has(lane)) continue;
      this.lanes.add(lane);
      void this.alone(lane, () => this.offerAll(lane)).finally(() => {
        this.lanes.delete(lane);
        if (this.held === 'no' && this.waiting.some((change) => change.lane === lane && change.order > 0))
          this.go();
      });
    }
  }

  /** The tabs of a browser share what waits, so one at a time offers a lane. Where there are no locks the keys suffice. */
  private alone(lane: string, work: () => Promise<void>): Promise<void> {
    if (!('locks' in navigator)) return work();
    return navigator.locks.request(`${channelName}-${lane}`, work).then(() => {});
  }

  private async offerAll(lane: string): Promise<void> {
    const store = await this.store!;
    for (;;) {
      const { userId } = this;
      const all = await store.all();
      const change = all.find(
        (each) => each.lane === lane && each.userId === userId && each.refused === null
      );
      if (!change || userId === null) {
        await this.read();
        return;
      }
      try {
        const answer = await this.offer(change);
        this.taken(change.key, answer);
        await store.remove(change.order);
        this.tell({ kind: 'kept', key: change.key, answer });
        this.held = 'no';
        this.againMs = firstAgainMs;
      } catch (error) {
        if (!(error instanceof Refused)) throw error;
        if (!(await this.refusedWith(store, change, error))) return;
      }
    }
  }

  private offer(change: StoredChange): Promise<Answer> {
    const headers = { 'idempotency-key': change.key, 'yonder-user': change.userId };
    return change.file
      ? sendFile(change.url, change.file, headers, (share) => this.sent.set(change.key, share))
      : send(change.method as Method, change.url, change.body, headers);
  }

  private taken(key: string, answer: Answer): void {
    const change = this.changes.find((each) => each.key === key);
    if (change && change.keptAs === null) {
      const keptAs = typeof answer.seq === 'number' ? answer.seq : 0;
      this.replace(key, { keptAs });
      this.sent.delete(key);
      for (const follower of this.followers) follower({ ...change, keptAs }, answer);
    }
    this.waiters.get(key)?.(answer);
    this.waiters.delete(key);
  }

  private faultedTooOften(key: string, status: number): boolean {
    if (status !== fault) return false;
    const faults = (this.faults.get(key) ?? 0) + 1;
    this.faults.set(key, faults);
    return faults >= mostFaults;
  }

  /** @returns whether the next change of the lane can be offered */
  private async refusedWith(store: WaitingStore, change: StoredChange, error: Refused): Promise<boolean> {
    if (error.status === 401) {
      this.held = 'signed-out';
      return false;
    }
    if (passing(error.status) && !this.faultedTooOften(change.key, error.status)) {
      this.held = 'unreachable';
      this.again ??= setTimeout(() => this.go(), this.againMs);
      this.againMs = Math.min(lastAgainMs, this.againMs * 2);
      return false;
    }
    const refused = { sentence: error.sentence, next: error.next };
    await store.put({ ...change, refused });
    this.replace(change.key, { refused });
    this.tell({ kind: 'waiting' });
    toast.error(error.sentence, { description: error.next, duration: 9000 });
    this.waiters.get(change.key)?.(null);
    this.waiters.delete(change.key);
    return true;
  }
}

export const outbox = new Outbox();
