import { toast } from 'svelte-sonner';

/** What the server says when something can't be done. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    readonly sentence: string,
    readonly next: string
  ) {
    super(sentence);
  }
}

export const noAnswer = () =>
  new Refused(
    0,
    'no-answer',
    'Yonder Tray does not answer.',
    'Check that it is running; this page goes on by itself.'
  );

interface Said {
  code?: string;
  sentence?: string;
  next?: string;
  message?: string;
}

export function refusal(status: number, said: Said): Refused {
  return new Refused(
    status,
    said.code ?? 'fault',
    said.sentence ?? said.message ?? 'Something went wrong that should not have.',
    said.next ?? 'Try again.'
  );
}

export type Method = 'GET' | 'POST' | 'DELETE';

/** Asks the server for something; throws Refused with its words, or with ours when it does not answer. */
export async function send<T>(
  method: Method,
  url: string,
  body?: unknown,
  headers: Record<string, string> = {}
): Promise<T> {
  let answer: Response;
  try {
    answer = await fetch(url, {
      method,
      headers: body === undefined ? headers : { 'content-type': 'application/json', ...headers },
      body: body === undefined ? undefined : JSON.stringify(body)
    });
  } catch {
    throw noAnswer();
  }
  const said = (await answer.json().catch(() => ({}))) as T & Said;
  if (answer.ok) return said;
  throw refusal(answer.status, said);
}

/** Asks for something that a page can do without: what can't be had now is nothing, and is asked again by what follows. */
export async function sendOr<T>(url: string, nothing: T): Promise<T> {
  try {
    return await send<T>('GET', url);
  } catch (error) {
    if (!(error instanceof Refused)) throw error;
    return nothing;
  }
}

/** Asks for something that is to happen now, and once, however often it has to be asked. */
export const ask = <T>(url: string, body: unknown, method: Method = 'POST'): Promise<T> =>
  send<T>(method, url, body, { 'idempotency-key': crypto.randomUUID() });

/** Does something for a click: what goes wrong is said where the person looks. True when it worked. */
export async function attempt(work: () => Promise<unknown>): Promise<boolean> {
  try {
    await work();
    return true;
  } catch (error) {
    if (!(error instanceof Refused)) throw error;
    toast.error(error.sentence, { description: error.next, duration: 9000 });
    return false;
  }
}
