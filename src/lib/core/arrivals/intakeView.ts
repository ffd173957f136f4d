import type { ArrivalSource } from './arrivalView';
import type { Coming } from './survey';

/** What became of one file of an intake. */
export interface IntakeLine {
  name: string;
  outcome: 'known' | 'refused';
  code: string;
  words: string;
}

/** One coming in, as pages see it: how far it is, and what did not come in. */
export interface IntakeView {
  intakeId: string;
  source: ArrivalSource;
  from: string;
  forMe: boolean;
  subject: string;
  note: string;
  unknownSender: boolean;
  /** How many files it says it has; null where that is not known yet. */
  said: number | null;
  kept: number;
  known: number;
  refused: number;
  startedAt: string;
  endedAt: string | null;
  cancelled: boolean;
  /** While it is read: what the beginnings of its files tell of. */
  coming: Coming[];
}

/** How far it is in words: "312 of 1,000 read". */
export function progressWords({ said, kept, known, refused }: IntakeView): string {
  const read = (kept + known + refused).toLocaleString('en');
  return said === null ? `${read} read` : `${read} of ${said.toLocaleString('en')} read`;
}

/** What came of it, in words: "298 came in, 12 were here already, 2 could not be read". */
export function outcomeWords({ kept, known, refused }: IntakeView): string {
  const count = (n: number) => n.toLocaleString('en');
  const parts = [
    `${count(kept)} came in`,
    ...(known > 0 ? [`${count(known)} ${known === 1 ? 'was' : 'were'} here already`] : []),
    ...(refused > 0 ? [`${count(refused)} could not be read`] : [])
  ];
  return parts.join(', ');
}
