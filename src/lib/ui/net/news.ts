import { invalidate, invalidateAll } from '$app/navigation';
import { navigating } from '$app/state';

const gatherMs = 15;

/** Follows the clinic's news and loads again what has changed. Returns how to stop. */
export function followNews(): () => void {
  const source = new EventSource('/api/news');
  const due = new Set<string>();
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
  return () => {
    source.close();
    if (timer) clearTimeout(timer);
  };
}
