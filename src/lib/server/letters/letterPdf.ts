import sharp from 'sharp';
import type {
  LetterBlock,
  LetterBody,
  LetterCell,
  LetterInline,
  LetterListItem,
  LetterRow
} from '../../core/letter/letterBody';
import { type LetterField, isLetterField } from '../../core/letter/letterFields';
import { type PicturePlace, captionMm, rowHeightMm } from '../../core/letter/letterPlace';
import { wordsOfLetter } from '../../core/letter/letterBody';
import type { PdfMade } from '../report/made';
import { type Content, unwritable } from '../report/paperFonts';
import { jpegUrl, unreadable } from '../report/paperPictures';
import { type SheetHead, grey, headWords, mmPt, sheetsPdf } from '../report/paperSheet';
import { lines } from '../report/resultsContent';

/** A picture in its place: as JPEG, null where it can't be read, and what stands under it. */
export interface PlacePrinted {
  jpeg: Uint8Array | null;
  caption: string;
}

/** A letter with all that fills it. */
export interface LetterPdfWish {
  body: LetterBody;
  head: SheetHead;
  foot: string;
  fields: Readonly<Record<LetterField, string>>;
  /** By place; a place that stays empty is missing. */
  places: Record<string, PlacePrinted>;
  readings: readonly { name: string; value: string }[];
  /** The drawing of the body as SVG; empty where none is wanted. */
  bodyMap: string;
  signature: { name: string; role: string };
}

const headingPt = { 1: 15, 2: 12.5, 3: 11 } as const;
const bodyMapMm = 78;
const signMm = 16;

/** The letter as a PDF of A4 sheets. */
export async function letterPdf(wish: LetterPdfWish): Promise<PdfMade> {
  const { body, head, foot } = wish;
  const places = await withAspects(wish.places);
  const bytes = await sheetsPdf({
    what: 'Letter',
    head,
    foot,
    untitled: true,
    content: contentOf(body.content, { ...wish, places })
  });
  const written = [
    headWords(head),
    foot,
    wordsOfLetter(body),
    ...Object.values(wish.fields),
    ...Object.values(wish.places).map(({ caption }) => caption),
    ...wish.readings.flatMap(({ name, value }) => [name, value])
  ];
  return { bytes, unwritable: unwritable(written.join(' ')) };
}

/** What a letter is written from, with the shapes of its pictures. */
type Written = Omit<LetterPdfWish, 'places'> & {
  /** `aspect` is width over height, as it is seen. */
  places: Record<string, PlacePrinted & { aspect: number }>;
};

async function withAspects(places: Record<string, PlacePrinted>): Promise<Written['places']> {
  const measured = await Promise.all(
    Object.entries(places).map(async ([id, place]) => {
      const { width, height } = place.jpeg ? await sharp(place.jpeg).metadata() : { width: 1, height: 1 };
      return [id, { ...place, aspect: width / height }] as const;
    })
  );
  return Object.fromEntries(measured);
}

const contentOf = (blocks: readonly LetterBlock[] | undefined, wish: Written): Content[] =>
  (blocks ?? []).map((block) => blockContent(block, wish)).filter((each) => each !== null);

/** Null where nothing of it stands on paper. */
function blockContent(block: LetterBlock, wish: Written): Content | null {
  switch (block.type) {
    case 'paragraph':
      return standsEmpty(block.content, wish)
        ? null
        : {
            text: runs(block.content, wish),
            margin: [0, 0, 0, 6],
            alignment: block.attrs?.textAlign ?? 'left'
          };
    case 'heading':
      return {
        text: runs(block.content, wish),
        fontSize: headingPt[block.attrs.level],
        bold: true,
        margin: [0, 6, 0, 4],
        headlineLevel: 1,
        alignment: block.attrs.textAlign ?? 'left'
      };
    case 'bulletList':
      return { ul: items(block.content, wish), margin: [0, 0, 0, 6] };
    case 'orderedList':
      return { ol: items(block.content, wish), margin: [0, 0, 0, 6] };
    case 'table':
      return tableContent(block.content ?? [], wish);
    case 'horizontalRule':
      return {
        layout: { ...lines, hLineWidth: (i: number) => (i === 0 ? 0.6 : 0) },
        margin: [0, 4, 0, 6],
        table: { widths: ['*'], body: [[{ text: '' }]] }
      };
    case 'pictures':
      return rowContent(block.attrs.places, wish);
    case 'readings':
      return wish.readings.length === 0
        ? null
        : {
            layout: lines,
            margin: [0, 2, 0, 8],
            table: {
              widths: ['*', 'auto'],
              dontBreakRows: true,
              body: wish.readings.map(({ name, value }) => [{ text: name }, { text: value, bold: true }])
            }
          };
    case 'bodyMap':
      return {
        svg: wish.bodyMap,
        fit: [bodyMapMm * mmPt, bodyMapMm * mmPt],
        margin: [0, 4, 0, 8]
      };
    case 'signature':
      return {
        stack: [
          {
            canvas: [{ type: 'line', x1: 0, y1: 0, x2: 60 * mmPt, y2: 0, lineWidth: 0.6, lineColor: grey }],
            margin: [0, signMm * mmPt, 0, 2]
          },
          { text: wish.signature.name, bold: true },
          { text: wish.signature.role, style: 'small' }
        ],
        unbreakable: true
      };
  }
}

const fieldOf = (name: string, { fields }: Written): string => (isLetterField(name) ? fields[name] : '');

/** A line of nothing but fields, none of which has a value, leaves no gap. A line left empty on purpose does. */
const standsEmpty = (content: readonly LetterInline[] | undefined, wish: Written): boolean =>
  content !== undefined &&
  content.length > 0 &&
  content.every((part) =>
    part.type === 'field'
      ? fieldOf(part.attrs.name, wish).trim() === ''
      : part.type === 'text' && part.text.trim() === ''
  );

function runs(content: readonly LetterInline[] | undefined, wish: Written): Content[] {
  if (!content?.length) return [{ text: ' ' }];
  return content.map((part) => {
    if (part.type === 'hardBreak') return { text: '\n' };
    const has = (type: string) => part.marks?.some((mark) => mark.type === type) ?? false;
    return {
      text: part.type === 'text' ? part.text : fieldOf(part.attrs.name, wish),
      ...(has('bold') ? { bold: true } : {}),
      ...(has('italic') ? { italics: true } : {}),
      ...(has('underline') ? { decoration: 'underline' } : {})
    };
  });
}

const items = (content: readonly LetterListItem[] | undefined, wish: Written): Content[] =>
  (content ?? []).map((item) => ({ stack: contentOf(item.content, wish) }));

function tableContent(rows: readonly LetterRow[], wish: Written): Content | null {
  const { grid, across } = gridOf(rows);
  if (across === 0) return null;
  return {
    layout: {
      hLineWidth: () => 0.5,
      vLineWidth: () => 0.5,
      hLineColor: () => grey,
      vLineColor: () => grey
    },
    margin: [0, 2, 0, 8],
    table: {
      widths: widthsOf(rows, across),
      dontBreakRows: true,
      body: grid.map((cells) =>
        cells.map((cell) =>
          cell
            ? {
                stack: contentOf(cell.content, wish),
                colSpan: cell.attrs?.colspan ?? 1,
                rowSpan: cell.attrs?.rowspan ?? 1,
                ...(cell.type === 'tableHeader' ? { bold: true } : {})
              }
            : { text: '' }
        )
      )
    }
  };
}

/** Cells at their places, with nothing where one of a larger span lies already; every row as long as the longest. */
function gridOf(rows: readonly LetterRow[]): { grid: (LetterCell | null)[][]; across: number } {
  const taken: boolean[][] = rows.map(() => []);
  const grid: (LetterCell | null)[][] = rows.map(() => []);
  for (const [at, row] of rows.entries())
    for (const cell of row.content ?? []) {
      let column = 0;
      while (taken[at][column]) column += 1;
      grid[at][column] = cell;
      const { colspan = 1, rowspan = 1 } = cell.attrs ?? {};
      for (let down = at; down < Math.min(rows.length, at + rowspan); down++)
        for (let right = column; right < column + colspan; right++) taken[down][right] = true;
    }
  const across = Math.max(0, ...taken.map((row) => row.length));
  return {
    across,
    grid: grid.map((row, at) =>
      Array.from({ length: across }, (_, column) => {
        const cell = row[column];
        if (!cell) return null;
        const { rowspan = 1 } = cell.attrs ?? {};
        // A span that goes over the foot of the table ends there.
        return rowspan > rows.length - at
          ? { ...cell, attrs: { ...cell.attrs, rowspan: rows.length - at } }
          : cell;
      })
    )
  };
}

/** Columns as wide as somebody drew them, where they did so for all; else alike. */
function widthsOf(rows: readonly LetterRow[], across: number): (string | number)[] {
  const drawn = (rows[0]?.content ?? []).flatMap(
    ({ attrs }) => attrs?.colwidth ?? Array.from({ length: attrs?.colspan ?? 1 }, () => 0)
  );
  const sum = drawn.reduce((all, each) => all + each, 0);
  return drawn.length === across && drawn.every((each) => each > 0)
    ? drawn.map((each) => `${(100 * each) / sum}%`)
    : Array.from({ length: across }, () => '*');
}

/** Pictures where they were put, each with its words under it; the row is not parted between two sheets. */
function rowContent(places: readonly PicturePlace[], wish: Written): Content | null {
  // A row in which nothing stands leaves no gap.
  if (places.every(({ id }) => !wish.places[id])) return null;
  return {
    unbreakable: true,
    stack: [
      ...places.flatMap((place): Content[] => {
        const printed = wish.places[place.id];
        if (!printed) return [];
        const { xMm, yMm, widthMm, heightMm } = place;
        const at = (x: number, y: number) => ({ relativePosition: { x: x * mmPt, y: y * mmPt } });
        const wide = Math.min(widthMm, heightMm * printed.aspect);
        const high = Math.min(heightMm, widthMm / printed.aspect);
        return [
          printed.jpeg
            ? {
                ...at(xMm + (widthMm - wide) / 2, yMm + (heightMm - high) / 2),
                image: jpegUrl(printed.jpeg),
                width: wide * mmPt,
                height: high * mmPt
              }
            : { ...at(xMm, yMm), text: unreadable },
          {
            ...at(xMm, yMm + heightMm + 1),
            columns: [
              { width: widthMm * mmPt, text: captionFitted(printed.caption, widthMm), style: 'small' }
            ]
          }
        ];
      }),
      { text: '', margin: [0, 0, 0, rowHeightMm(places) * mmPt] }
    ]
  };
}

/** Two lines under a picture are all there is room for; letters are about 1.7 mm wide at that size. */
function captionFitted(caption: string, widthMm: number): string {
  const most = Math.floor((widthMm / 1.7) * Math.floor(captionMm / 4));
  return caption.length > most ? `${caption.slice(0, most - 1).trimEnd()}…` : caption;
}
