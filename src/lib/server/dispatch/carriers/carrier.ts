import type { WireLine } from '../../../core/parcel/wire';

/** A try that did not work, in words for the person who follows the parcel. `final` when trying again can't help. */
export class NotDelivered extends Error {
  constructor(
    readonly reason: string,
    readonly final = false,
    /** What a person can do, where that is more than waiting. */
    readonly next = ''
  ) {
    super(reason);
  }
}

/** It may have arrived, and nobody can be asked: only a person tries again. */
export class Unsure extends NotDelivered {
  constructor(
    reason: string,
    next = 'Ask them whether it arrived before you try again: a mail can’t be asked for.'
  ) {
    super(reason, true, next);
  }
}

/** The other side hung up before it answered: some do so over a question that they do not know. */
export class HungUp extends NotDelivered {}

/** What to do about somebody that can't be reached as yet. */
export const askOrWait = 'Ask its keeper whether it runs, or wait: it is tried again by itself.';
export type Who = 'archive' | 'claims office' | 'printer';
export const isAway = (who: Who) =>
  new NotDelivered(`The ${who} is away: nothing listens there.`, false, askOrWait);
export const brokeOff = (who: Who) =>
  new NotDelivered(`The connection to the ${who} broke off.`, false, askOrWait);
export const didNotAnswer = (who: Who) =>
  new NotDelivered(
    `The ${who} did not answer within ${Math.ceil(patienceMs() / 1000)} seconds.`,
    false,
    askOrWait
  );

/** Where exchanges are written down. */
export type Wire = (line: WireLine) => void;

/** How long the other side may keep us waiting before the try counts as failed. */
export const patienceMs = () => Number(process.env.YONDER_ARCHIVE_PATIENCE_MS ?? 15_000);
