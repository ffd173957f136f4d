import { Refused, send } from '../net/send';

type State = 'kept' | 'changed' | 'keeping' | 'refused';

/** Everything is kept as it is made: soon after somebody pauses, one after the other. */
export class Keeping<Wish> {
  state = $state<State>('kept');
  refused = $state.raw<Refused | null>(null);
  private timer: ReturnType<typeof setTimeout> | undefined;
  private going: Promise<void> = Promise.resolve();
  private newest: Wish | null = null;
  /** One that was sent and not answered: it is sent again as the same act before anything else is. */
  private unanswered: { wish: Wish; key: string } | null = null;

  constructor(
    private readonly keep: (wish: Wish, key: string) => Promise<void>,
    private readonly pauseMs = 700
  ) {}

  /** What it is now. After a refusal that somebody has to answer nothing more is sent until they did. */
  put(wish: Wish): void {
    this.newest = wish;
    if (this.refused?.status === 409) return;
    this.state = 'changed';
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.flush(), this.pauseMs);
  }

  /** Keeps at once what is not kept yet. */
  flush(): Promise<void> {
    clearTimeout(this.timer);
    this.going = this.going.then(async () => {
      if (this.refused?.status === 409) return;
      while (this.unanswered || this.newest !== null) if (!(await this.keepOne())) return;
      this.state = 'kept';
    });
    return this.going;
  }

  private async keepOne(): Promise<boolean> {
    const sent = this.unanswered ?? { wish: this.newest!, key: crypto.randomUUID() };
    if (sent !== this.unanswered) this.newest = null;
    this.unanswered = sent;
    this.state = 'keeping';
    try {
      await this.keep(sent.wish, sent.key);
      this.unanswered = this.refused = null;
      return true;
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      this.refused = error;
      this.state = 'refused';
      if (error.status === 0 || error.status >= 500) this.timer = setTimeout(() => void this.flush(), 3_000);
      else {
        this.newest ??= sent.wish;
        this.unanswered = null;
      }
      return false;
    }
  }

  /** Somebody has answered a refusal by going elsewhere: nothing of this is kept any more. */
  giveUp(): void {
    clearTimeout(this.timer);
    this.refused = this.newest = this.unanswered = null;
    this.state = 'kept';
  }
}

export const keepAs = <T>(url: string, wish: unknown, key: string): Promise<T> =>
  send<T>('POST', url, wish, { 'idempotency-key': key });
