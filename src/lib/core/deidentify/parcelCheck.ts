import type { Area } from '../raster/area';

/** Something that must not leave and still stands in what would. */
export interface FoundName {
  /** What it is part of: a name, a number, a day, folded. */
  term: string;
  where: string;
  /** In a picture: what was read there, and where it stands, in pixels of the picture. */
  says?: string;
  area?: Area;
  frame?: number;
}

/** What was found, each place once: "marrowby in the picture itself". */
export const foundWords = (found: readonly FoundName[]): string[] => [
  ...new Set(found.map(({ term, where }) => `“${term}” in ${where}`))
];

/** What was looked through before a parcel went, as it goes along with it. */
export interface CheckProtocol {
  version: 1;
  /** What the rule was called, and what it did, a line a matter. */
  rule: string;
  did: string[];
  checkedAt: string;
  items: { file: string; checked: string[]; veils: number; found: string[] }[];
}

/** What is looked through in every picture of a parcel. */
export const checkedThings = [
  'names in every spelling and short form, numbers and days in attributes and items',
  'file names, words that go along, words of drawings',
  'properties of the files',
  'writing in the picture itself, found and read'
] as const;

/** The protocol in words, a line each, for a page that goes along. */
export function protocolLines({ rule, did, checkedAt, items }: CheckProtocol): string[] {
  return [
    `De-identified by the rule “${rule}”.`,
    ...did,
    `Looked through at ${checkedAt}:`,
    ...checkedThings.map((each) => `- ${each}`),
    `${items.length === 1 ? 'One picture' : `${items.length} pictures`}:`,
    ...items.map(
      ({ file, veils, found }) =>
        `${file}: ${veils === 0 ? 'nothing masked' : veils === 1 ? 'one area masked' : `${veils} areas masked`}, ${
          found.length === 0 ? 'nothing found' : `let go by a person: ${found.join('; ')}`
        }`
    ),
    'Faces and other features by which somebody can be recognised were not looked for.'
  ];
}
