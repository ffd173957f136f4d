import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';

type Collect = (how?: { type: 'minor' }) => void;

let collect: Collect | null = null;

/** What clears up at once: everything, or what is young alone. For moments in which nobody waits. */
export function collector(): Collect {
  if (!collect) {
    setFlagsFromString('--expose-gc');
    collect = runInNewContext('gc') as Collect;
  }
  return collect;
}

/**
 * Gives back the pieces of memory that a large body lay in. They lie outside the collector's own heap: once enough of
 * them have gathered it looks through everything, in the midst of the next body, for tens of milliseconds. Called when
 * nobody waits it takes about one, for they are all young.
 */
export function giveBack(): void {
  collector()({ type: 'minor' });
}
