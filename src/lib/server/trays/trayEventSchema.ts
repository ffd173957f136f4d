import { z } from 'zod';
import { patternNames, patterns } from '../../core/tray/patterns';
import type { TrayEvent } from '../../core/tray/events';
import type { Caller } from '../people/caller';

const slotId = z.string().min(1).max(60);
const takeId = z.uuid();

/** What a page may ask of a tray. Takes come in through exposures and files only, confirmation carries the caller. */
export const trayWish = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('lay-pattern'), pattern: z.enum(patternNames) }),
  z.object({ kind: z.literal('slot-chosen'), slotId }),
  z.object({ kind: z.literal('retake-asked'), slotId }),
  z.object({ kind: z.literal('anchored'), slotId }),
  z.object({ kind: z.literal('anchor-lifted') }),
  z.object({ kind: z.literal('take-moved'), takeId, slotId: slotId.nullable() }),
  z.object({ kind: z.literal('slots-swapped'), slotId, otherSlotId: slotId }),
  z.object({ kind: z.literal('keeper-chosen'), slotId, takeId }),
  z.object({ kind: z.literal('keeper-confirmed'), slotId, takeId }),
  z.object({ kind: z.literal('confirmation-withdrawn'), slotId })
]);
export type TrayWish = z.infer<typeof trayWish>;

export function eventFor(wish: TrayWish, caller: Caller): TrayEvent {
  if (wish.kind === 'lay-pattern') return { kind: 'tray-laid', pattern: patterns[wish.pattern] };
  if (wish.kind === 'keeper-confirmed') return { ...wish, by: caller.name };
  return wish;
}
