import type { Pattern } from './tray';

/** What can happen to a tray. Stored in this form, in order, for ever: change by adding kinds, not by editing them. */
export type TrayEvent =
  | { kind: 'tray-laid'; pattern: Pattern }
  /** The operator goes to a slot; the route goes on from there. */
  | { kind: 'slot-chosen'; slotId: string }
  /** One slot again, after which the route goes on where it was. */
  | { kind: 'retake-asked'; slotId: string }
  | { kind: 'anchored'; slotId: string }
  | { kind: 'anchor-lifted' }
  /** A take arrived, for a slot or (null) for the bench. Only an exposure moves the route on. */
  | { kind: 'take-added'; takeId: string; slotId: string | null; exposed: boolean }
  /** To another slot, or (null) to the bench. Nothing is lost from the slot it goes to. */
  | { kind: 'take-moved'; takeId: string; slotId: string | null }
  | { kind: 'slots-swapped'; slotId: string; otherSlotId: string }
  | { kind: 'keeper-chosen'; slotId: string; takeId: string }
  | { kind: 'keeper-confirmed'; slotId: string; takeId: string; by: string }
  | { kind: 'confirmation-withdrawn'; slotId: string };
