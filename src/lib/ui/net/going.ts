import { invalidate, invalidateAll } from '$app/navigation';
import { navigating, page } from '$app/state';

/**
 * Fetches again what the page shows: what depends on that name, or all of it. Whoever is on the way to another page gets
 * there first: fetching again amid it would give the way up, and their press would be lost.
 */
export async function again(what?: `yonder:${string}`): Promise<void> {
  await arrived();
  await (what ? invalidate(what) : invalidateAll());
}

async function arrived(): Promise<void> {
  let waitedFor: unknown = null;
  while (navigating.complete && navigating.complete !== waitedFor) {
    waitedFor = navigating.complete;
    // Given up for another way, which is waited for in its turn.
    await navigating.complete.catch(() => {});
  }
}

const paintedAtLatestMs = 100;
/** Links are followed once the press has been painted. What waits for it as well comes after a link that was pressed before. */
export function painted(): Promise<void> {
  return new Promise((done) => {
    requestAnimationFrame(() => setTimeout(done, 0));
    setTimeout(done, paintedAtLatestMs);
  });
}

/** The page that somebody is on, or on the way to. */
export const whereTo = (): string => (navigating.to?.url ?? page.url).pathname;
