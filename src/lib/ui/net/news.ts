import { invalidate } from '$app/navigation';
import { navigating } from '$app/state';

const gatherMs = 15;

type Heard = { kind: 'all' } | { kind: 'news'; topic: string; id: string };

const sharedName = 'yonder-news';

/** Follows the clinic's news and loads again what has changed. Returns how to stop. */
export function followNews(): () => void {
  const due = new Set<string>();
  let timer: ReturnType<typeof setTimeout> | null = null;
  let leave: (() => void) | null = null;
  const reload = (what: string) => {
    due.add(what);
    timer ??= setTimeout(flush, gatherMs);
  };
  /** Loading again while a page is being opened would stop that, so it waits until the page is there. */
  const flush = () => {
    if (navigating.to) {
      timer = setTimeout(flush, gatherMs);
      return;
    }
    timer = null;
    const each = [...due];
    due.clear();
    // Only what follows the news is loaded again: a form that somebody is filling in stays as it is.
    if (each.includes('all')) void invalidate(({ protocol }) => protocol === 'yonder:');
    else for (const one of each) void invalidate(one);
  };
  const hear = (heard: Heard) => {
    if (heard.kind === 'all') return reload('all');
    if (heard.topic === 'visit') reload(`yonder:visit:${heard.id}`);
    if (heard.topic === 'device') reload('yonder:devices');
    reload('yonder:today');
  };
  const start = () => (leave ??= listenTogether(hear));
  const stop = () => {
    leave?.();
    leave = null;
  };
  /** A page that a browser keeps for going back must let its connection go. */
  const startAgain = (event: PageTransitionEvent) => {
    if (event.persisted) start();
  };
  start();
  addEventListener('pagehide', stop);
  addEventListener('pageshow', startAgain);
  return () => {
    removeEventListener('pagehide', stop);
    removeEventListener('pageshow', startAgain);
    stop();
    if (timer) clearTimeout(timer);
  };
}

/**
 * Browsers allow six connections to a server, and each stream of news takes one for good. So the tabs of a browser
 * share one: whoever holds the lock listens and tells the others; when that tab goes, the next one takes over. Where
 * there are no locks (a page that is not served securely), each tab listens by itself.
 */
function listenTogether(hear: (heard: Heard) => void): () => void {
  if (!('locks' in navigator)) return listen(hear, false);
  const channel = new BroadcastChannel(sharedName);
  channel.onmessage = ({ data }: MessageEvent<Heard>) => hear(data);
  const waiting = new AbortController();
  let release = () => {};
  const lead = (tookOver: boolean) =>
    new Promise<void>((done) => {
      const close = listen((heard) => {
        channel.postMessage(heard);
        hear(heard);
      }, tookOver);
      release = () => {
        close();
        done();
      };
    });
  void navigator.locks
    .request(sharedName, { ifAvailable: true }, (lock) =>
      lock && !waiting.signal.aborted ? lead(false) : 'taken'
    )
    .then((outcome) => {
      if (outcome !== 'taken' || waiting.signal.aborted) return;
      return navigator.locks.request(sharedName, { signal: waiting.signal }, () => lead(true));
    })
    .catch(() => {
      // Left before it was this tab's turn.
    });
  return () => {
    waiting.abort();
    release();
    channel.close();
  };
}

/** @param gap whether news may have been missed before the first word */
function listen(hear: (heard: Heard) => void, gap: boolean): () => void {
  const source = new EventSource('/api/news');
  let first = !gap;
  source.addEventListener('hello', () => {
    if (!first) hear({ kind: 'all' });
    first = false;
  });
  source.addEventListener('missed', () => hear({ kind: 'all' }));
  source.addEventListener('news', (event) => {
    const { topic, id } = JSON.parse((event as MessageEvent<string>).data) as { topic: string; id: string };
    hear({ kind: 'news', topic, id });
  });
  return () => source.close();
}
