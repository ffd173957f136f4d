import { error, json } from '@sveltejs/kit';
import { z } from 'zod';
import { cleanTexts } from '../../core/text';
import { Problem, signedOut } from '../problem';
import type { Caller } from '../people/caller';

/** Who is signed in, or a refusal in words. */
export function signedIn(locals: App.Locals): Caller {
  if (!locals.caller) throw signedOut();
  return locals.caller;
}

const problemFrom = (thrown: unknown): Problem | null => (thrown instanceof Problem ? thrown : null);

/** What somebody asks, held against a schema; what doesn't fit is refused in words. What is stored is never read so. */
export function understood<T>(schema: z.ZodType<T>, asked: unknown): T {
  const read = schema.safeParse(asked);
  if (read.success) return read.data;
  const [issue] = read.error.issues;
  const where = issue.path.length > 0 ? ` (${issue.path.join('.')})` : '';
  throw new Problem(
    'not-understood',
    `The request could not be understood${where}: ${issue.message}.`,
    'Load the page again.',
    400
  );
}

/** Answers a request for data: a Problem becomes its status with code, sentence and next step as JSON. */
export async function answered(work: () => Promise<unknown>): Promise<Response> {
  try {
    const result = await work();
    return result instanceof Response ? result : json(result ?? { done: true });
  } catch (thrown) {
    const problem = problemFrom(thrown);
    if (!problem) throw thrown;
    const { code, sentence, next, status } = problem;
    return json({ code, sentence, next }, { status });
  }
}

/** The same for the load function of a page: a Problem becomes the page that says it. */
export async function loaded<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (thrown) {
    const problem = problemFrom(thrown);
    if (!problem) throw thrown;
    throw error(problem.status, { message: problem.sentence, next: problem.next });
  }
}

/** What a request asks, as JSON that fits a schema; what is none, or doesn't fit, is refused in words. */
export async function wishOf<T>(request: Request, schema: z.ZodType<T>): Promise<T> {
  let asked: unknown;
  try {
    asked = await request.json();
  } catch {
    throw new Problem('not-understood', 'The request is not written as JSON.', 'Load the page again.', 400);
  }
  return understood(schema, cleanTexts(asked));
}

/** The key under which a page asks for something, which it sends again when it asks again. */
export function keyOf(request: Request): string {
  return request.headers.get('idempotency-key') ?? '';
}
