import { invalidate, invalidateAll } from '$app/navigation';
import { navigating } from '$app/state';

const gatherMs = 15;

/** Follows the clinic's news and loads again what has changed. Returns how to stop. */
export function followNews(): () => void {
  const due = new Set<string>();
  let source: EventSource | null = null;
  let first = true;
  let timer: ReturnType<typeof setTimeout> | null = null;
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
    if (each.includes('all')) void invalidateAll();
    else for (const one of each) void invalidate(one);
  };
  const open = () => {
    source = new EventSource('/api/news');
    source.addEventListener('hello', () => {
      if (!first) reload('all');
      first = false;
    });
    source.addEventListener('missed', () => reload('all'));
    source.addEventListener('news', (event) => {
      const { topic, id } = JSON.parse((event as MessageEvent<string>).data) as { topic: string; id: string };
      if (topic === 'visit') reload(`yonder:visit:${id}`);
      if (topic === 'device') reload('yonder:devices');
      reload('yonder:today');
    });
  };
  /** A page that a browser keeps for going back holds its connection, and browsers allow only six: let it go. */
  const close = () => {
    source?.close();
    source = null;
  };
  const openAgain = (event: PageTransitionEvent) => {
    if (event.persisted && !source) open();
  };
  open();
  addEventListener('pagehide', close);
  addEventListener('pageshow', openAgain);
  return () => {
    removeEventListener('pagehide', close);
    removeEventListener('pageshow', openAgain);
    close();
    if (timer) clearTimeout(timer);
  };
}
