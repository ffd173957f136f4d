import { type TrayEvent, trayEventKindOf } from './events/all';
import type { PatternBook } from './pattern';
import { type Tray, emptyTray } from './tray';

/** One event applied to a tray, as a new tray; the same object when it changes nothing. */
export function reduce(tray: Tray, event: TrayEvent, book: PatternBook): Tray {
  return trayEventKindOf(event.kind).apply(tray, event, book);
}

export function fold(events: Iterable<TrayEvent>, book: PatternBook, start: Tray = emptyTray): Tray {
  let tray = start;
  for (const event of events) tray = reduce(tray, event, book);
  return tray;
}
