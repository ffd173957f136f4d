import { Refused, ask, attempt } from '../net/send';

/** Keeping a case's words: where something in them points to a person, it is said, and kept only with a reason. */
export class CaseKeeping {
  /** What was found in the words; empty while nothing was. */
  found = $state('');
  why = $state('');
  busy = $state(false);

  /** @returns what the server answers, or null where it was not kept */
  async keep<T>(url: string, wish: Record<string, unknown>): Promise<T | null> {
    let answer: T | null = null;
    const why = this.found && this.why.trim().length >= 3 ? { why: this.why } : {};
    this.busy = true;
    await attempt(async () => {
      try {
        answer = await ask<T>(url, { ...wish, ...why });
        this.found = this.why = '';
      } catch (error) {
        if (!(error instanceof Refused) || error.code !== 'name-in-words') throw error;
        this.found = error.sentence;
      }
    });
    this.busy = false;
    return answer;
  }
}
