import { z } from 'zod';
import { grades } from './gradeReasons';
import { type PictureKind, type PictureView, pictureKinds } from './pictureView';

/** By what a list of pictures can be sorted. */
export const sortings = ['date', 'kind', 'name', 'device', 'grade', 'who'] as const;
export type Sorting = (typeof sortings)[number];

/** What stands on no drawing of the body. */
export const besideThings = ['loops', 'kept views', 'no place'] as const;
export type BesideThing = (typeof besideThings)[number];

/** Which pictures are asked for. What is empty limits nothing. */
export const pictureSearchSchema = z.strictObject({
  /** Keys of places: pictures that show any of them. */
  places: z.array(z.string().min(1).max(80)).max(64).default([]),
  /** What stands on no drawing. */
  beside: z.enum(besideThings).nullable().default(null),
  kinds: z.array(z.enum(pictureKinds)).max(pictureKinds.length).default([]),
  /** Taken at this moment or later, and before that. */
  from: z.iso.datetime().nullable().default(null),
  until: z.iso.datetime().nullable().default(null),
  categoryId: z.uuid().nullable().default(null),
  device: z.string().max(120).default(''),
  who: z.string().max(120).default(''),
  grade: z.enum(grades).nullable().default(null),
  /** In its name, its file's name, its remark or what was found on it. */
  words: z.string().trim().max(120).default(''),
  sort: z.enum(sortings).default('date'),
  /** Oldest first, or from A to Z; else the other way round. */
  up: z.boolean().default(false)
});
export type PictureSearch = z.infer<typeof pictureSearchSchema>;

export const everyPicture: PictureSearch = pictureSearchSchema.parse({});

/** A picture in a list, with what only lists tell. */
export interface ListedPicture extends PictureView {
  /** Who took it or brought it in. */
  who: string;
  /** Which of its visit's trays it lies on; null where it lies on none. */
  trayNumber: number | null;
  /** Ids of what it is filed under. */
  categories: string[];
}

/** A picture that was found among all charts. */
export interface FoundPicture extends ListedPicture {
  patient: string;
  recordNumber: string;
}

/** What a chart's pictures can be limited to: how many there are of each. */
export interface PictureFacets {
  kinds: Partial<Record<PictureKind, number>>;
  devices: Record<string, number>;
  people: Record<string, number>;
  grades: Record<string, number>;
  categories: Record<string, number>;
  beside: Partial<Record<BesideThing, number>>;
}

/** Whether a search limits anything; sorting does not. */
export const isLimited = (search: PictureSearch): boolean =>
  searchQuery({ ...search, sort: 'date', up: false }).size > 0;

/** A search as the query of an address; nothing in it stands for everything. */
export function searchQuery(search: PictureSearch): URLSearchParams {
  const query = new URLSearchParams();
  for (const [name, value] of Object.entries(search)) {
    if (Array.isArray(value)) for (const each of value) query.append(name, each);
    else if (name === 'sort' ? value !== 'date' : value) query.set(name, String(value));
  }
  return query;
}

/** The search that a query stands for; null for one that is none. */
export function searchOf(query: URLSearchParams): PictureSearch | null {
  const { places: _, kinds: __, up: ___, ...plain } = pictureSearchSchema.shape;
  const asked: Record<string, unknown> = {
    places: query.getAll('places'),
    kinds: query.getAll('kinds'),
    up: query.get('up') === 'true'
  };
  for (const name of Object.keys(plain)) {
    const value = query.get(name);
    if (value) asked[name] = value;
  }
  return pictureSearchSchema.safeParse(asked).data ?? null;
}
