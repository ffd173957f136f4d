import type { TrayEvent } from './events/all';

/** An event of a tray under its number. */
export interface NumberedEvent {
  seq: number;
  event: TrayEvent;
}

/** The numbers of events that were taken back and not brought back since. */
export function deadSeqs(log: readonly NumberedEvent[]): Set<number> {
  const dead = new Set<number>();
  for (let i = log.length - 1; i >= 0; i--) {
    const { seq, event } = log[i];
    if (event.kind === 'taken-back' && !dead.has(seq)) for (const each of event.seqs) dead.add(each);
  }
  return dead;
}

/** The events that count, in their order: to be folded into the tray as it stands. */
export function liveEvents(log: readonly NumberedEvent[]): TrayEvent[] {
  const dead = deadSeqs(log);
  return log.filter(({ seq }) => !dead.has(seq)).map(({ event }) => event);
}

/** Whether an event can only be applied by folding the whole log, or with what a page does not hold. */
export const needsWholeLog = ({ kind }: TrayEvent): boolean => kind === 'tray-laid' || kind === 'taken-back';
