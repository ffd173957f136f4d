import { RateLimiterMemory, RateLimiterRes } from 'rate-limiter-flexible';
import { Problem } from '../problem';

/** What any request may carry, but for those below: a form, or what somebody did on a page. */
const mostBodyBytes = 256 * 1024;
/** These take pictures, or what is said of one; they count bytes as they come. */
const streamed = [
  /^\/device\/v1\/(exposures|files)$/,
  /^\/phone\/v1\/pictures$/,
  /^\/api\/visits\/[^/]+\/(files|papers)$/,
  /^\/api\/pictures\/[^/]+\/told$/,
  /^\/api\/intakes\/[^/]+\/(files|heads)$/,
  /^\/api\/letterhead\/logo$/,
  /^\/dicomweb\/studies$/
];
const changing = new Set(['POST', 'PUT', 'PATCH', 'DELETE']);

/** Requests that one person or one device may make in half a minute, and one address that nobody knows. */
const perCaller = new RateLimiterMemory({ points: 2_400, duration: 30 });
const perStranger = new RateLimiterMemory({ points: 600, duration: 30 });
/** Pictures that one person or device may be sending at one moment. */
const mostAtOnce = 6;
const underWay = new Map<string, number>();

/** Sessions and tokens that were found to be ones, by their hashes; forgotten now and then. */
const recognised = new Set<string>();
const mostRecognised = 10_000;

export const isRecognised = (key: string): boolean => recognised.has(key);

export function recognise(key: string): void {
  if (recognised.size >= mostRecognised) recognised.clear();
  recognised.add(key);
}

export const isStreamed = (pathname: string): boolean => streamed.some((each) => each.test(pathname));

/** @throws Problem for a body that is too large, or does not say how large it is */
export function checkBody(request: Request, pathname: string): void {
  if (!changing.has(request.method) || isStreamed(pathname)) return;
  const said = request.headers.get('content-length');
  if (said === null && request.headers.get('transfer-encoding') !== null)
    throw new Problem('length-needed', 'The request does not say how long it is.', 'Send its length.', 411);
  if (Number(said ?? 0) > mostBodyBytes)
    throw new Problem(
      'too-large',
      'This request is larger than anything a page sends.',
      'Bring pictures in as files.',
      413
    );
}

const tooMany = (seconds: number) =>
  new Problem(
    'too-many',
    'More is asked at once than anybody at a chair could.',
    `Wait ${seconds === 1 ? 'a second' : `${seconds} seconds`} and try again.`,
    429
  );

/** @param who a session or a device by what it shows, or an address. @throws Problem when it asks too often */
export async function checkRate(who: string, known: boolean): Promise<void> {
  try {
    await (known ? perCaller : perStranger).consume(who);
  } catch (refused) {
    if (!(refused instanceof RateLimiterRes)) throw refused;
    throw tooMany(Math.max(1, Math.ceil(refused.msBeforeNext / 1000)));
  }
}

/** Lets somebody send a few pictures at one moment and no more, so that nobody fills the disk or takes every connection. */
export async function fewAtOnce<T>(who: string, work: () => Promise<T>): Promise<T> {
  const count = underWay.get(who) ?? 0;
  if (count >= mostAtOnce) throw tooMany(1);
  underWay.set(who, count + 1);
  try {
    return await work();
  } finally {
    const left = underWay.get(who)! - 1;
    if (left === 0) underWay.delete(who);
    else underWay.set(who, left);
  }
}
