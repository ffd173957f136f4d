import type { Handle, HandleServerError, ServerInit } from '@sveltejs/kit';
import pino from 'pino';
import { cleanText } from '$core/text';
import { closeDatabase } from '$lib/server/database/connection';
import { signedOut } from '$lib/server/http/answer';
import { checkBody, checkRate, fewAtOnce, isStreamed } from '$lib/server/http/guard';
import { withHeaders } from '$lib/server/http/headers';
import { newId, sha256 } from '$lib/server/ids';
import { watchSilence } from '$lib/server/devices/silence';
import { startQueue, stopQueue } from '$lib/server/jobs/boss';
import { stopListening } from '$lib/server/news/listen';
import { callerOfSession } from '$lib/server/people/session';
import { Problem } from '$lib/server/problem';
import { startProcesses, stopProcesses } from '$lib/server/work/processes';
import { startThreads, stopThreads } from '$lib/server/work/threads';
import { inTurn } from '$lib/server/work/turns';

const log = pino();

export const init: ServerInit = async () => {
  await startQueue();
  startThreads();
  startProcesses();
  const stopWatching = watchSilence();
  process.on('sveltekit:shutdown', async () => {
    stopWatching();
    await stopListening();
    await stopThreads();
    await stopProcesses();
    await stopQueue();
    await closeDatabase();
  });
};

/** Pages that can be seen without being signed in; devices show a token of their own. */
const open = (path: string) => path === '/sign-in' || path === '/health' || path.startsWith('/device/');

const changing = new Set(['POST', 'PUT', 'PATCH', 'DELETE']);

/** Small pictures come by the dozen, and none of them is worth keeping a device waiting. */
const smallPicture = /^\/api\/pictures\/[^/]+\/preview$/;

export const handle: Handle = async (asked) => {
  const { pathname } = asked.event.url;
  const work = async () => answer(asked);
  try {
    return withHeaders(await (smallPicture.test(pathname) ? inTurn(work) : work()));
  } catch (problem) {
    if (!(problem instanceof Problem)) throw problem;
    return withHeaders(refusal(problem, pathname));
  }
};

const answer: Handle = async ({ event, resolve }) => {
  const { request, url } = event;
  const { pathname } = url;
  for (const [name, value] of [...url.searchParams])
    if (cleanText(value) !== value) url.searchParams.set(name, cleanText(value));
  event.locals.caller = null;
  event.locals.token = event.cookies.get('session') ?? null;
  const forDevices = pathname.startsWith('/device/');
  const shown = forDevices ? request.headers.get('authorization') : event.locals.token;
  const who = shown ? sha256(shown).toString('base64') : event.getClientAddress();
  if (pathname !== '/health') await checkRate(who, shown !== null);
  checkBody(request, pathname);
  if (changing.has(request.method) && !forDevices) {
    const origin = request.headers.get('origin');
    if (origin !== null && origin !== url.origin) return new Response('Wrong origin', { status: 403 });
  }
  if (event.locals.token && !forDevices) event.locals.caller = await callerOfSession(event.locals.token);
  if (!event.locals.caller && !open(pathname)) {
    if (pathname.startsWith('/api/')) throw signedOut();
    const to = `/sign-in?to=${encodeURIComponent(pathname)}`;
    return new Response(null, { status: 303, headers: { location: to } });
  }
  if (somebodyElse(request, event.locals.caller?.userId)) {
    throw new Problem(
      'somebody-else',
      'Somebody else is signed in here now.',
      'What you changed waits until you sign in again.',
      401
    );
  }
  return isStreamed(pathname) ? fewAtOnce(who, async () => resolve(event)) : resolve(event);
};

/** A page says for whom it asks: what one person made is never kept in the name of another who has signed in since. */
const somebodyElse = (request: Request, userId: string | undefined): boolean => {
  const asked = request.headers.get('yonder-user');
  return asked !== null && asked !== userId;
};

/** A refusal before any page could be made: as data, or as a page that looks again by itself while the records are away. */
function refusal({ code, sentence, next, status }: Problem, pathname: string): Response {
  if (pathname.startsWith('/api/') || pathname.startsWith('/device/'))
    return Response.json({ code, sentence, next }, { status });
  const again = status === 503 ? '<meta http-equiv="refresh" content="3">' : '';
  const page = `<!doctype html><html lang="en"><meta charset="utf-8">${again}
<title>Yonder Tray</title><main style="font:18px/1.6 sans-serif;max-width:34rem;margin:18vh auto;padding:0 1rem">
<h1 style="font-size:1.5rem">${sentence}</h1><p>${next}</p></main></html>`;
  return new Response(page, { status, headers: { 'content-type': 'text/html; charset=utf-8' } });
}

export const handleError: HandleServerError = ({ error, event, status, message }) => {
  if (status === 404) return { message: 'There is no such page.', next: 'Go to Today.' };
  const number = newId().slice(-12);
  log.error({ number, path: event.url.pathname, err: error }, message);
  return {
    message: 'Something went wrong that should not have.',
    next: `Try again; if it stays so, tell us the number ${number}.`,
    number
  };
};
