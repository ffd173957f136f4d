import type { Handle, HandleServerError, ServerInit } from '@sveltejs/kit';
import { cleanText } from '$core/text';
import { noteRefusal, stopLooks } from '$lib/server/audit/looks';
import { closeDatabase } from '$lib/server/database/connection';
import { checkBody, checkRate, fewAtOnce, isRecognised, isStreamed, recognise } from '$lib/server/http/guard';
import { withHeaders } from '$lib/server/http/headers';
import { newId, sha256 } from '$lib/server/ids';
import { watchSilence } from '$lib/server/devices/silence';
import { endOnFaults, log } from '$lib/server/log';
import { startQueue, stopQueue } from '$lib/server/jobs/boss';
import { clinicIds } from '$lib/server/jobs/upkeep';
import type { Caller } from '$lib/server/people/caller';
import { stopListening } from '$lib/server/news/listen';
import { callerOfSession } from '$lib/server/people/session';
import { Problem, signedOut } from '$lib/server/problem';
import { startProcesses, stopProcesses } from '$lib/server/work/processes';
import { startThreads, stopThreads } from '$lib/server/work/threads';
import { inTurn } from '$lib/server/work/turns';

export const init: ServerInit = async () => {
  endOnFaults();
  await startQueue();
  startThreads();
  startProcesses();
  const stopWatching = watchSilence();
  process.on('sveltekit:shutdown', async () => {
    stopWatching();
    await stopListening();
    await stopLooks();
    await stopThreads();
    await stopProcesses();
    await stopQueue();
    await closeDatabase();
  });
};

/** Devices, phones and other systems show a token of their own. */
const showsToken = (path: string) =>
  path.startsWith('/device/') || path.startsWith('/phone/v1/') || path.startsWith('/dicomweb/');
/** What can be asked without being signed in. */
const open = (path: string) =>
  path === '/sign-in' || path === '/welcome' || path === '/health' || path === '/phone' || showsToken(path);

const changing = new Set(['POST', 'PUT', 'PATCH', 'DELETE']);

/** Small pictures come by the dozen, and none of them is worth keeping a device waiting. */
const smallPicture = /^\/api\/pictures\/[^/]+\/preview$/;

export const handle: Handle = async (asked) => {
  const { pathname } = asked.event.url;
  const work = async () => answer(asked);
  let response: Response;
  try {
    response = await (smallPicture.test(pathname) ? inTurn(work) : work());
  } catch (problem) {
    if (!(problem instanceof Problem)) throw problem;
    response = refusal(problem, pathname);
  }
  await noteRefused(response.status, asked.event.locals.caller, pathname);
  return withHeaders(response);
};

/** What each refusal is called in the audit. Somebody's role is told there by whoever refuses; rubbish is no refusal. */
const refusals: Record<number, string> = {
  401: 'nobody is signed in',
  404: 'not in this clinic',
  429: 'too often'
};

async function noteRefused(status: number, caller: Caller | null, pathname: string): Promise<void> {
  const reason = refusals[status];
  const where = pathname.slice(0, 120);
  if (!reason || pathname === '/sign-in' || (status === 404 && !caller)) return;
  if (caller) noteRefusal(caller.clinicId, caller, where, reason);
  else {
    const why = showsToken(pathname) && status === 401 ? 'unknown device' : reason;
    // Of a stranger's addresses only where they lead: nobody fills the audit with made-up ones.
    const part = pathname.split('/').slice(0, 3).join('/').slice(0, 40);
    for (const clinicId of await everyClinic()) noteRefusal(clinicId, null, part, why);
  }
}

/** Clinics hardly ever come or go: asked for once in a while. */
let clinics: { ids: Promise<string[]>; until: number } | null = null;
function everyClinic(): Promise<string[]> {
  if (!clinics || clinics.until < Date.now())
    clinics = { ids: clinicIds().catch(() => []), until: Date.now() + 60_000 };
  return clinics.ids;
}

const answer: Handle = async ({ event, resolve }) => {
  const { request, url } = event;
  const { pathname } = url;
  for (const [name, value] of [...url.searchParams])
    if (cleanText(value) !== value) url.searchParams.set(name, cleanText(value));
  event.locals.caller = null;
  event.locals.token = event.cookies.get('session') ?? null;
  const forDevices = showsToken(pathname);
  const shown = forDevices ? request.headers.get('authorization') : event.locals.token;
  const key = shown ? sha256(shown).toString('base64') : null;
  // What shows a session or a token that nobody has seen to be one is a stranger, however many of them it makes up.
  const known = key !== null && isRecognised(key);
  const who = known ? key : event.getClientAddress();
  if (pathname !== '/health') await checkRate(who, known);
  checkBody(request, pathname);
  if (changing.has(request.method) && !forDevices) {
    const origin = request.headers.get('origin');
    if (origin !== null && origin !== url.origin) return new Response('Wrong origin', { status: 403 });
  }
  if (event.locals.token && !forDevices) event.locals.caller = await callerOfSession(event.locals.token);
  if (!event.locals.caller && !open(pathname)) {
    if (pathname.startsWith('/api/')) throw signedOut();
    const to = `/sign-in?to=${encodeURIComponent(pathname + url.search)}`;
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
  const response = isStreamed(pathname)
    ? await fewAtOnce(who, async () => resolve(event))
    : await resolve(event);
  if (key !== null && (event.locals.caller || (forDevices && response.ok))) recognise(key);
  return response;
};

/** A page says for whom it asks: what one person made is never kept in the name of another who has signed in since. */
const somebodyElse = (request: Request, userId: string | undefined): boolean => {
  const asked = request.headers.get('yonder-user');
  return asked !== null && asked !== userId;
};

/** A refusal before any page could be made: as data, or as a page that looks again by itself while the records are away. */
function refusal({ code, sentence, next, status }: Problem, pathname: string): Response {
  if (pathname.startsWith('/api/') || showsToken(pathname))
    return Response.json({ code, sentence, next }, { status });
  const again = status === 503 ? '<meta http-equiv="refresh" content="3">' : '';
  const page = `<!doctype html><html lang="en"><meta charset="utf-8">${again}
<title>Yonder Tray</title><main style="font:18px/1.6 sans-serif;max-width:34rem;margin:18vh auto;padding:0 1rem">
<h1 style="font-size:1.5rem">${sentence}</h1><p>${next}</p></main></html>`;
  return new Response(page, { status, headers: { 'content-type': 'text/html; charset=utf-8' } });
}

export const handleError: HandleServerError = ({ error, event, status }) => {
  if (status === 404) return { message: 'There is no such page.', next: 'Go to Today.' };
  const number = newId().slice(-12);
  log.error({ number, route: event.route.id, method: event.request.method, err: error }, 'fault');
  return {
    message: 'Something went wrong that should not have.',
    next: `Try again; if it stays so, tell us the number ${number}.`,
    number
  };
};
