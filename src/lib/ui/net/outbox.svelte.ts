import { toast } from 'svelte-sonner';
import { Refused, send } from './send';

interface Waiting {
  url: string;
  body: unknown;
  done: () => void;
}

const againMs = 1200;

/**
 * What was made on this page and is not yet kept by the server, in order. Each carries a key, so offering it twice
 * keeps it once; what can't go now is offered again until it is through.
 */
class Outbox {
  waiting = $state<Waiting[]>([]);
  held = $state(false);
  private going = false;

  /** Resolves when the server has kept it, or refused it in words. */
  put(url: string, body: unknown): Promise<void> {
    return new Promise((done) => {
      this.waiting.push({ url, body, done });
      void this.go();
    });
  }

  private async go(): Promise<void> {
    if (this.going) return;
    this.going = true;
    while (this.waiting.length > 0) {
      const [first] = this.waiting;
      try {
        await send('POST', first.url, first.body);
        this.held = false;
      } catch (error) {
        if (!(error instanceof Refused)) throw error;
        if (error.status === 0 || error.status >= 500) {
          this.held = true;
          await new Promise((wait) => setTimeout(wait, againMs));
          continue;
        }
        toast.error(error.sentence, { description: error.next, duration: 9000 });
      }
      this.waiting.shift();
      first.done();
    }
    this.going = false;
  }
}

export const outbox = new Outbox();
