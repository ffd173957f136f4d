import type { Caller } from '$lib/server/people/caller';

declare global {
  namespace App {
    interface Locals {
      caller: Caller | null;
      token: string | null;
    }
    interface Error {
      message: string;
      next?: string;
      number?: string;
    }
  }
}

export {};
