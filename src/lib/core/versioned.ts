import type { z } from 'zod';

/** Something that is stored with a version: its shape of today, and how each earlier one becomes the next. */
export interface Versioned<Body> {
  version: number;
  schema: z.ZodType<Body>;
  /** `upcasters[n]` makes version n into version n + 1. One for every version below the present one. */
  upcasters: Readonly<Record<number, (body: unknown) => unknown>>;
}

/** What is stored can't be read: it comes from a newer program, or was damaged. Never guessed at. */
export class Unreadable extends Error {
  constructor(what: string, why: string) {
    super(`${what} can't be read: ${why}`);
    this.name = 'Unreadable';
  }
}

/**
 * A stored body as the present version has it: brought up step by step, then checked.
 * @throws Unreadable for a version from the future, one without its step, or a body that fails the schema
 */
export function readVersioned<Body>(what: string, of: Versioned<Body>, version: number, body: unknown): Body {
  if (version > of.version)
    throw new Unreadable(what, `its version ${version} is newer than this program's ${of.version}`);
  let at = body;
  for (let step = version; step < of.version; step++) {
    const upcast = of.upcasters[step];
    if (!upcast) throw new Unreadable(what, `nothing reads version ${step}`);
    try {
      at = upcast(at);
    } catch {
      throw new Unreadable(what, `what it holds was never a version ${step}`);
    }
  }
  const read = of.schema.safeParse(at);
  if (!read.success) throw new Unreadable(what, read.error.issues[0].message);
  return read.data;
}
