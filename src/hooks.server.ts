import { type Handle, type HandleServerError, type ServerInit, redirect } from '@sveltejs/kit';
import pino from 'pino';
import { cleanText } from '$core/text';
import { closeDatabase } from '$lib/server/database/connection';
import { newId } from '$lib/server/ids';
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

export const handle: Handle = (asked) =>
  smallPicture.test(asked.event.url.pathname) ? inTurn(async () => answer(asked)) : answer(asked);

const answer: Handle = async ({ event, resolve }) => {
  const { pathname } = event.url;
  for (const [name, value] of [...event.url.searchParams])
    if (cleanText(value) !== value) event.url.searchParams.set(name, cleanText(value));
  event.locals.caller = null;
  event.locals.token = event.cookies.get('session') ?? null;
  const forDevices = pathname.startsWith('/device/');
  if (changing.has(event.request.method) && !forDevices) {
    const origin = event.request.headers.get('origin');
    if (origin !== null && origin !== event.url.origin) return new Response('Wrong origin', { status: 403 });
  }
  try {
    if (event.locals.token && !forDevices) event.locals.caller = await callerOfSession(event.locals.token);
  } catch (problem) {
    if (!(problem instanceof Problem)) throw problem;
    return away(problem, pathname);
  }
  if (!event.locals.caller && !open(pathname)) {
    if (pathname.startsWith('/api/')) {
      return Response.json(
        {
          code: 'signed-out',
          sentence: 'You are not signed in, or the session is over.',
          next: 'Sign in again.'
        },
        { status: 401 }
      );
    }
    redirect(303, `/sign-in?to=${encodeURIComponent(pathname)}`);
  }
  if (somebodyElse(event.request, event.locals.caller?.userId)) {
    return Response.json(
      {
        code: 'somebody-else',
        sentence: 'Somebody else is signed in here now.',
        next: 'What you changed waits until you sign in again.'
      },
      { status: 401 }
    );
  }
  const response = await resolve(event);
  response.headers.set('x-content-type-options', 'nosniff');
  response.headers.set('referrer-policy', 'same-origin');
  response.headers.set('x-frame-options', 'DENY');
  response.headers.set('cross-origin-opener-policy', 'same-origin');
  response.headers.set('permissions-policy', 'camera=(), microphone=(), geolocation=()');
  return response;
};

/** A page says for whom it asks: what one person made is never kept in the name of another who has signed in since. */
const somebodyElse = (request: Request, userId: string | undefined): boolean => {
  const asked = request.headers.get('yonder-user');
  return asked !== null && asked !== userId;
};

/** While the database is away nobody can be recognised: say so, and let the page look again by itself. */
function away(problem: Problem, pathname: string): Response {
  if (pathname.startsWith('/api/')) {
    return Response.json(
      { code: problem.code, sentence: problem.sentence, next: problem.next },
      { status: problem.status }
    );
  }
  const page = `<!doctype html><html lang="en"><meta charset="utf-8"><meta http-equiv="refresh" content="3">
<title>Waiting for the records</title><main style="font:18px/1.6 sans-serif;max-width:34rem;margin:18vh auto;padding:0 1rem">
<h1 style="font-size:1.5rem">${problem.sentence}</h1><p>${problem.next}</p></main></html>`;
  return new Response(page, { status: 503, headers: { 'content-type': 'text/html; charset=utf-8' } });
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
