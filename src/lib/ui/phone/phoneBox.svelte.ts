import { Refused } from '../net/send';
import { sendFile } from '../net/sendFile';
import { type StoredChange, type WaitingStore, openWaitingStore } from '../net/waitingStore';

/** What a phone keeps of its pairing. */
export interface Pairing {
  token: string;
  userId: string;
  name: string;
  clinic: string;
  until: string;
}

/** A picture that was made here, as the page shows it. */
export interface PhonePicture {
  key: string;
  title: string;
  madeAt: string;
  /** Of a picture that waits. */
  preview: string | null;
  state: 'waiting' | 'sending' | 'sent' | 'refused';
  /** How much of it is sent, from 0 to 1. */
  share: number;
  words: string;
  /** Who was paired when it was made; only in their name it is sent. */
  userId: string;
}

interface About {
  title: string;
  remark: string;
  fileName: string;
}

const pairingKey = 'yonder-phone';
const sentShown = 6;
const againMs = 3_000;

const encoded = (about: About): string => {
  const bytes = new TextEncoder().encode(JSON.stringify(about));
  return btoa(String.fromCharCode(...bytes))
    .replaceAll('+', '-')
    .replaceAll('/', '_')
    .replace(/=+$/, '');
};

/** Pictures made on this phone: kept in its browser until the clinic has them, and sent once each. */
export class PhoneBox {
  pairing = $state.raw<Pairing | null>(null);
  pictures = $state.raw<PhonePicture[]>([]);
  held = $state<'no' | 'unreachable' | 'pairing-over'>('no');
  durable = $state(true);
  private store: Promise<WaitingStore> | null = null;
  private sending = false;
  private timer: ReturnType<typeof setTimeout> | null = null;

  readonly waiting = $derived(
    this.pictures.filter(({ state }) => state === 'waiting' || state === 'sending')
  );

  /** Reads what this phone holds, and begins to send it. Returns how to stop. */
  start(): () => void {
    this.pairing = readPairing();
    this.store = openWaitingStore('yonder-phone');
    void this.store.then(async (store) => {
      this.durable = store.durable;
      for (const change of await store.all()) this.show(change);
      void this.go();
    });
    return () => {
      if (this.timer) clearTimeout(this.timer);
    };
  }

  paired(pairing: Pairing): void {
    this.pairing = pairing;
    this.held = 'no';
    localStorage.setItem(pairingKey, JSON.stringify(pairing));
    void this.go();
  }

  private show(change: StoredChange): void {
    const { title } = change.body as About;
    this.pictures = [
      {
        key: change.key,
        title,
        madeAt: change.madeAt,
        preview: change.file && URL.createObjectURL(change.file),
        state: change.refused ? 'refused' : 'waiting',
        share: 0,
        words: change.refused ? `${change.refused.sentence} ${change.refused.next}` : '',
        userId: change.userId
      },
      ...this.pictures
    ];
  }

  private change(key: string, by: Partial<PhonePicture>): void {
    this.pictures = this.pictures.map((each) => (each.key === key ? { ...each, ...by } : each));
  }

  /** Keeps a picture on this phone and sends it as soon as that is possible. */
  async add(file: Blob, about: About): Promise<void> {
    const store = await this.store!;
    const stored = await store.add({
      key: crypto.randomUUID(),
      userId: this.pairing!.userId,
      method: 'POST',
      url: '/phone/v1/pictures',
      body: about,
      file,
      lane: 'phone',
      words: about.title,
      madeAt: new Date().toISOString(),
      refused: null
    });
    this.show(stored);
    void this.go();
  }

  /** Takes a picture that can't be sent off this phone. */
  async remove(key: string): Promise<void> {
    const store = await this.store!;
    const change = (await store.all()).find((each) => each.key === key);
    if (change) await store.remove(change.order);
    this.pictures = this.pictures.filter((each) => each.key !== key);
  }

  /** Sends what waits, the oldest first, for as long as the clinic can be reached. */
  async go(): Promise<void> {
    if (this.sending || !this.pairing || this.held === 'pairing-over') return;
    this.sending = true;
    try {
      const store = await this.store!;
      for (;;) {
        const { userId } = this.pairing;
        const next = (await store.all()).find((each) => each.refused === null && each.userId === userId);
        if (!next || !(await this.send(store, next))) break;
      }
    } finally {
      this.sending = false;
    }
  }

  /** @returns whether the next one can be tried */
  private async send(store: WaitingStore, change: StoredChange): Promise<boolean> {
    this.change(change.key, { state: 'sending', share: 0 });
    const headers = {
      authorization: `Bearer ${this.pairing!.token}`,
      'idempotency-key': change.key,
      'yonder-picture': encoded(change.body as About)
    };
    try {
      await sendFile(change.url, change.file!, headers, (share) => this.change(change.key, { share }));
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      return this.notSent(store, change, error);
    }
    await store.remove(change.order);
    this.held = 'no';
    this.change(change.key, { state: 'sent', share: 1, preview: null });
    const sent = this.pictures.filter(({ state }) => state === 'sent').slice(sentShown);
    this.pictures = this.pictures.filter((each) => !sent.includes(each));
    return true;
  }

  private async notSent(store: WaitingStore, change: StoredChange, error: Refused): Promise<boolean> {
    if (error.status === 401) {
      this.held = 'pairing-over';
      this.change(change.key, { state: 'waiting' });
      return false;
    }
    if (error.status === 0 || error.status === 429 || error.status >= 500) {
      this.held = 'unreachable';
      this.change(change.key, { state: 'waiting' });
      this.timer ??= setTimeout(() => {
        this.timer = null;
        void this.go();
      }, againMs);
      return false;
    }
    const refused = { sentence: error.sentence, next: error.next };
    await store.put({ ...change, refused });
    this.change(change.key, { state: 'refused', words: `${error.sentence} ${error.next}` });
    return true;
  }
}

function readPairing(): Pairing | null {
  try {
    return JSON.parse(localStorage.getItem(pairingKey) ?? 'null') as Pairing | null;
  } catch {
    return null;
  }
}
