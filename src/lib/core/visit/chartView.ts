import type { BodyMap } from '../anatomy/placeKind';
import type { PaperView } from '../papers/paper';
import type { JoinedChart } from '../people/joinedChart';
import type { RuledCategory } from '../picture/categoryRule';
import type { ListedPicture, PictureFacets } from '../picture/pictureSearch';
import type { Trade } from '../tray/pattern';
import type { PatientBand } from './visitView';

export interface ListedVisit {
  visitId: string;
  openedAt: string;
  room: string;
  trade: Trade;
  /** Why it took place, as its story has it, else in the appointment's words. */
  reason: string;
  pictureCount: number;
}

/** A picture that was moved from one visit to another, as both charts tell it. */
export interface MovedPicture {
  pictureId: string;
  at: string;
  by: string;
  reason: string;
  /** Whether it left this chart or came into it; within one chart it does both. */
  what: 'left' | 'came' | 'within';
  /** The other chart. */
  patientId: string;
  patient: string;
  recordNumber: string;
}

/** A patient's chart as its page sees it, with the first page of its pictures. */
export interface Chart {
  patient: PatientBand;
  visits: ListedVisit[];
  pictures: ListedPicture[];
  /** How many pictures there are of what was asked for. */
  found: number;
  /** How many there are in all, and of what. */
  facets: PictureFacets;
  categories: RuledCategory[];
  /** How many pictures show each place, over all of them, by the place's key. */
  counts: Record<string, number>;
  /** When the newest picture of each place was taken. */
  newest: Record<string, string>;
  /** The drawings that say where pictures are, the one that says most first. */
  maps: BodyMap[];
  rooms: { roomId: string; name: string; trade: Trade }[];
  /** Pictures that were moved out of this chart, or into it. */
  moves: MovedPicture[];
  /** How many pictures lie in its bin, and for how many days they do. */
  bin: { count: number; days: number };
  /** Pictures that were taken out of it and wait on the sorting desk. */
  onDesk: { at: string; by: string; reason: string }[];
  /** Charts that were joined into this one, and parted from it. */
  joins: JoinedChart[];
  /** Of all visits, the newest first. */
  papers: PaperView[];
  /** Where the next page of pictures begins; null where there is none. */
  older: string | null;
}
