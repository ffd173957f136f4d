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

/** Asks the server for something; throws Refused with its words, or with ours when it does not answer. */
export async function send<T>(method: 'GET' | 'POST' | 'PUT', url: string, body?: unknown): Promise<T> {
  let answer: Response;
  try {
    answer = await fetch(url, {
      method,
      headers: body === undefined ? {} : { 'content-type': 'application/json' },
      body: body === undefined ? undefined : JSON.stringify(body)
    });
  } catch {
    throw new Refused(
      0,
      'no-answer',
      'Yonder Tray does not answer.',
      'Check that it is running; this page goes on by itself.'
    );
  }
  const said = (await answer.json().catch(() => ({}))) as T & {
    code?: string;
    sentence?: string;
    next?: string;
    message?: string;
  };
  if (answer.ok) return said;
  throw new Refused(
    answer.status,
    said.code ?? 'fault',
    said.sentence ?? said.message ?? 'Something went wrong that should not have.',
    said.next ?? 'Try again.'
  );
}

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
