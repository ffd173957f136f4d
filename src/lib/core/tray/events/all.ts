import { Unreadable, readVersioned } from '../../versioned';
import { anchorLifted } from './anchorLifted';
import { anchored } from './anchored';
import { confirmationWithdrawn } from './confirmationWithdrawn';
import { deviceSettled } from './deviceSettled';
import type { TrayEventKind } from './eventKind';
import { keeperChosen } from './keeperChosen';
import { keeperConfirmed } from './keeperConfirmed';
import { retakeAsked } from './retakeAsked';
import { routeLaid } from './routeLaid';
import { slotAdded } from './slotAdded';
import { slotChosen } from './slotChosen';
import { slotDropped } from './slotDropped';
import { slotsSwapped } from './slotsSwapped';
import { takeAdded } from './takeAdded';
import { takeDropped } from './takeDropped';
import { takeHandedOn } from './takeHandedOn';
import { takeRemoved } from './takeRemoved';
import { takeReturned } from './takeReturned';
import { takeMoved } from './takeMoved';
import { takenBack } from './takenBack';
import { trayFilled } from './trayFilled';
import { trayLaid } from './trayLaid';

/** Everything that can happen to a tray. Stored for ever: add kinds and versions, never edit one. */
export const trayEventKinds = [
  trayLaid,
  slotChosen,
  retakeAsked,
  anchored,
  anchorLifted,
  takeAdded,
  takeMoved,
  takeDropped,
  takeHandedOn,
  takeRemoved,
  takeReturned,
  slotsSwapped,
  keeperChosen,
  keeperConfirmed,
  confirmationWithdrawn,
  slotAdded,
  slotDropped,
  routeLaid,
  trayFilled,
  deviceSettled,
  takenBack
] as const;

type EventOf<K> = K extends TrayEventKind<infer Name, infer Body> ? { kind: Name } & Body : never;
export type TrayEvent = EventOf<(typeof trayEventKinds)[number]>;
type AnyKind = TrayEventKind<string, object>;

const byName = new Map<string, AnyKind>(
  trayEventKinds.map((kind): [string, AnyKind] => [kind.kind, kind as unknown as AnyKind])
);

/** @throws Unreadable for a kind that this program does not know */
export function trayEventKindOf(name: string): AnyKind {
  const kind = byName.get(name);
  if (!kind) throw new Unreadable(`An event of a tray`, `no kind is called ${name}`);
  return kind;
}

/** An event as it is stored. */
export interface StoredTrayEvent {
  kind: string;
  version: number;
  body: unknown;
}

/** @throws Unreadable when it can't be */
export function readTrayEvent({ kind, version, body }: StoredTrayEvent): TrayEvent {
  const read = readVersioned(`The event ${kind} of a tray`, trayEventKindOf(kind), version, body);
  return { kind, ...read } as TrayEvent;
}

/** What is stored is what the schema lets through, so no extra keys get in. */
export function storedTrayEvent({ kind, ...body }: TrayEvent): StoredTrayEvent {
  const of = trayEventKindOf(kind);
  return { kind, version: of.version, body: of.schema.parse(body) };
}
