/**
 * What becomes of each, in their order; the next ones are begun while one is waited for or taken.
 * @param most so many are under way or held at once
 */
export async function* ahead<T, R>(
  all: readonly T[],
  most: number,
  work: (one: T) => Promise<R>
): AsyncGenerator<R> {
  const begun: Promise<R>[] = [];
  for (let next = 0; next < all.length || begun.length > 0;) {
    while (next < all.length && begun.length < most) {
      const one = work(all[next++]);
      // Whoever takes them hears of it in its turn; somebody who took no more never does.
      one.catch(() => {});
      begun.push(one);
    }
    yield await begun.shift()!;
  }
}
