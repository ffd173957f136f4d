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

/** Where exchanges are written down. */
export type Wire = (line: WireLine) => void;

/** How long the other side may keep us waiting before the try counts as failed. */
export const patienceMs = () => Number(process.env.YONDER_ARCHIVE_PATIENCE_MS ?? 15_000);
