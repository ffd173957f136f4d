import { giveBack } from './giveBack';

/** What can wait, a few at a time. */
const atOnce = 3;
/** Exposures one after the other keep nothing waiting for longer than this. */
const patienceMs = 2_000;
/** So long after an exposure the page that waits for it has drawn it; small pictures that it asks for meanwhile wait. */
const drawnMs = 250;
/** So long after that nothing holds its bytes any more. */
const settledMs = 600;

let firstUnderWay = 0;
let running = 0;
const waiting: (() => void)[] = [];
const quietWaiters = new Set<() => void>();

/** Does something that everything that can wait lets go first: an exposure, while its device stands by. */
export async function goingFirst<T>(work: () => Promise<T>): Promise<T> {
  firstUnderWay += 1;
  try {
    return await work();
  } finally {
    setTimeout(letOthers, drawnMs).unref();
  }
}

/** Whether nothing else goes beside the one thing that goes first. */
export const goesAlone = (): boolean => firstUnderWay <= 1 && running === 0;

function letOthers(): void {
  firstUnderWay -= 1;
  if (firstUnderWay > 0) return;
  for (const go of [...quietWaiters]) go();
  setTimeout(giveBack, settledMs).unref();
}

function quiet(): Promise<void> {
  if (firstUnderWay === 0) return Promise.resolve();
  return new Promise((resolve) => {
    const go = () => {
      clearTimeout(timer);
      quietWaiters.delete(go);
      resolve();
    };
    const timer = setTimeout(go, patienceMs);
    quietWaiters.add(go);
  });
}

/** Does something that can wait, in its turn: a few of them at a time, and not while something goes first. */
export async function inTurn<T>(work: () => Promise<T>): Promise<T> {
  if (running >= atOnce) await new Promise<void>((go) => waiting.push(go));
  else running += 1;
  try {
    await quiet();
    return await work();
  } finally {
    const next = waiting.shift();
    if (next) next();
    else running -= 1;
  }
}
