import { invalidate, invalidateAll } from '$app/navigation';

/** Follows the clinic's news and loads again what has changed. Returns how to stop. */
export function followNews(): () => void {
  const source = new EventSource('/api/news');
  const due = new Set<string>();
  let first = true;
  let timer: ReturnType<typeof setTimeout> | null = null;
  const reload = (what: string) => {
    due.add(what);
    timer ??= setTimeout(() => {
      timer = null;
      const all = due.has('all');
      const each = [...due];
      due.clear();
      if (all) void invalidateAll();
      else for (const one of each) void invalidate(one);
    }, 15);
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
