import type { News } from '$core/visit/news';

/** What a page hears: news of the clinic, or that it may have missed some and has to look for itself. */
export type Heard = News | { topic: 'all' };
type Follower = (heard: Heard) => void;
const lookAgain: Heard[] = [{ topic: 'all' }];

const sharedName = 'yonder-news';
const followers = new Set<Follower>();

/** Is told of all news while the page follows them. Returns how to stop. */
export function onNews(follower: Follower): () => void {
  followers.add(follower);
  return () => followers.delete(follower);
}

/** What was heard while a page that is only now shown was being fetched; it may have missed some of it. */
const latelyMs = 8_000;
let lately: { at: number; heard: Heard }[] = [];

/** The same for a page that was fetched a moment ago: first it is told what was heard since. News twice do no harm. */
export function onNewsSinceFetched(follower: Follower): () => void {
  for (const { at, heard } of [...lately]) if (performance.now() - at < latelyMs) follower(heard);
  return onNews(follower);
}

/** What comes together is heard in one moment, so that a page is drawn once for it. */
function hear(all: Heard[]): void {
  const now = performance.now();
  lately = [...lately.filter(({ at }) => now - at < latelyMs), ...all.map((heard) => ({ at: now, heard }))];
  for (const heard of all) for (const follower of [...followers]) follower(heard);
}

/** Follows the clinic's news. Returns how to stop. */
export function followNews(): () => void {
  let leave: (() => void) | null = null;
  const start = () => (leave ??= listenTogether());
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
  };
}

/**
 * Browsers allow six connections to a server, and each stream of news takes one for good. So the tabs of a browser
 * share one: whoever holds the lock listens and tells the others; when that tab goes, the next one takes over. Where
 * there are no locks (a page that is not served securely), each tab listens by itself. Whatever happened between the
 * page's making and its first news is looked for once.
 */
function listenTogether(): () => void {
  if (!('locks' in navigator)) return listen(hear);
  const channel = new BroadcastChannel(sharedName);
  channel.onmessage = ({ data }: MessageEvent<Heard[]>) => hear(data);
  const waiting = new AbortController();
  let release = () => {};
  const lead = () =>
    new Promise<void>((done) => {
      const close = listen((heard) => {
        channel.postMessage(heard);
        hear(heard);
      });
      release = () => {
        close();
        done();
      };
    });
  void navigator.locks
    .request(sharedName, { ifAvailable: true }, (lock) =>
      lock && !waiting.signal.aborted ? lead() : 'taken'
    )
    .then((outcome) => {
      if (outcome !== 'taken' || waiting.signal.aborted) return;
      hear(lookAgain);
      return navigator.locks.request(sharedName, { signal: waiting.signal }, lead);
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

function listen(told: (all: Heard[]) => void): () => void {
  const source = new EventSource('/api/news');
  // With every connection, the first too: something may have happened before it.
  source.addEventListener('hello', () => told(lookAgain));
  source.addEventListener('missed', () => told(lookAgain));
  source.addEventListener('news', (event) =>
    told(JSON.parse((event as MessageEvent<string>).data) as News[])
  );
  // The session is over: whoever looks is told so by what is asked next.
  source.addEventListener('over', () => {
    source.close();
    told(lookAgain);
  });
  return () => source.close();
}
