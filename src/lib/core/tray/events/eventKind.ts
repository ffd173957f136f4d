import type { Versioned } from '../../versioned';
import type { PatternBook } from '../pattern';
import type { Tray } from '../tray';

/**
 * One thing that can happen to a tray. An event that means nothing (an unknown slot or take, what is already so) changes
 * nothing and gives back the same object, so replaying twice is harmless.
 */
export interface TrayEventKind<Name extends string, Body extends object> extends Versioned<Body> {
  kind: Name;
  apply(tray: Tray, event: Body, book: PatternBook): Tray;
}

export const trayEventKind = <Name extends string, Body extends object>(
  kind: TrayEventKind<Name, Body>
): TrayEventKind<Name, Body> => kind;
