import pdfmake from 'pdfmake';
import sharp from 'sharp';
import { captionLineMm, captionPt, letterShare, perLineOf } from '../../core/print/captions';
import type { PlacedField, PrintHead } from '../../core/print/printLayout';
import { type RectMm, type SizeMm, headMm, marginMm } from '../../core/print/paper';
import type { Placed, PrintSheet } from '../../core/print/printSheets';
import { rulerMm, shortRulerMm } from '../../core/print/printer';
import type { PdfMade } from './made';
import { type Content, lettered, plainFont, setFonts, unwritable } from './paperFonts';
import { jpegUrl, unreadable } from './paperPictures';
import { type SheetHead, aboutDocument, clinicSide, headWords, mmPt } from './paperSheet';

/** What is printed. All places are in mm on paper as it should come out. */
export interface PrintPdfWish {
  sheet: SizeMm;
  /** What has to be asked of the printer so that it comes out so. */
  correction: SizeMm;
  sheets: readonly PrintSheet[];
  /** By the keys of what is placed: the picture as JPEG, null where it can't be read, and its words. */
  pictures: Record<
    string,
    {
      jpeg: Uint8Array | null;
      caption: string[];
      /** What stands right under its left and its right edge, where a side matters. */
      sides?: readonly [left: string, right: string];
    }
  >;
  head: SheetHead;
  /** What stands on each sheet in place of the usual head, at places of its own. */
  own?: PrintHead | null;
  foot: string;
  /** Whether a ruler stands on every sheet, to be measured. */
  ruler: boolean;
  /** What it is, for whoever looks at its properties: "Pictures". */
  what?: string;
  /** Nothing but the pictures, their words in them, on film that is dark where nothing is, or on paper that is not. */
  bare?: 'dark' | 'light';
}

/**
 * Where on the page is asked for what should come out at a place in mm: what is corrected grows or shrinks about the
 * middle, so that margins stay even.
 */
const asked = ({ sheet, correction }: Pick<PrintPdfWish, 'sheet' | 'correction'>) => ({
  x: (mm: number) => (sheet.width / 2 + (mm - sheet.width / 2) * correction.width) * mmPt,
  y: (mm: number) => (sheet.height / 2 + (mm - sheet.height / 2) * correction.height) * mmPt
});

/** A name that goes on and on is written smaller: it keeps its room, and all of it is there. */
function headPt(name: string, roomMm: number): number {
  const linesAt = (pt: number) => Math.ceil((name.length * letterShare * pt) / (roomMm * mmPt));
  const most = (headMm - 5) * mmPt;
  return [13, 11, 9, 7.5, 6, 5].find((pt) => linesAt(pt) * pt * 1.1 <= most) ?? 4;
}
const smallCaptionPt = 6;
/** A caption as it fits its room: a name that does not is cut, for the picture says the rest. */
function fitted(
  words: readonly string[],
  { width: widthMm, height: highMm }: SizeMm
): { words: string[]; pt: number } {
  const pt = widthMm < 26 ? smallCaptionPt : captionPt;
  const perLine = perLineOf(widthMm, pt);
  const [name, ...rest] = words;
  const lines = (text: string) => Math.ceil(text.length / perLine);
  const left = Math.floor((highMm * mmPt) / (pt * 1.1)) - rest.reduce((sum, each) => sum + lines(each), 0);
  // Over several lines words that do not fit leave room at the end of each.
  const most = left > 1 ? Math.floor(0.7 * left * perLine) : perLine;
  return { words: [name.length > most ? `${name.slice(0, most - 1).trimEnd()}…` : name, ...rest], pt };
}

const markMm = 4;
const line = { type: 'line', lineWidth: 0.6, lineColor: '#14211d' };

/** Pictures on sheets as they were laid out: a point of it is where it should be, to a hundredth of a millimetre. */
export async function printPdf(wish: PrintPdfWish): Promise<PdfMade> {
  const { sheet, sheets, head, foot } = wish;
  setFonts();
  const content: Content[] = [];
  for (const [i, each] of sheets.entries()) content.push(await sheetContent(each, i, wish));
  const document = {
    ...aboutDocument(wish.what ?? 'Pictures', head),
    pageSize: { width: sheet.width * mmPt, height: sheet.height * mmPt },
    pageMargins: 0,
    defaultStyle: { font: plainFont, fontSize: 9, lineHeight: 1.1 },
    content: lettered(content)
  };
  const own = (wish.own?.fields ?? []).map((each) => each.words);
  const words = [
    headWords(head),
    ...own,
    foot,
    ...Object.values(wish.pictures).flatMap(({ caption }) => caption)
  ];
  return {
    bytes: new Uint8Array(await pdfmake.createPdf(document).getBuffer()),
    unwritable: unwritable(words.join(' '))
  };
}

async function sheetContent(
  { placed, tile, marks }: PrintSheet,
  i: number,
  wish: PrintPdfWish
): Promise<Content> {
  const { sheet, foot, ruler, sheets } = wish;
  const inside = sheet.width - 2 * marginMm;
  const { x, y } = asked(wish);
  const at = (left: number, top: number) => ({ x: x(left), y: y(top) });
  const drawn = await Promise.all(placed.map((each) => pictureContent(each, wish)));
  const footMm = sheet.height - marginMm;
  const broken = i > 0 ? { pageBreak: 'before' } : {};
  if (wish.bare) return { ...broken, stack: [groundContent(wish), ...drawn.flat()] };
  return {
    ...broken,
    stack: [
      ...(wish.own ? ownHead(wish.own, wish) : [usualHead(wish)]),
      ...drawn.flat(),
      ...marks.map((mark) => ({
        absolutePosition: { x: 0, y: 0 },
        canvas: [
          { ...line, x1: x(mark.x - markMm), y1: y(mark.y), x2: x(mark.x + markMm), y2: y(mark.y) },
          { ...line, x1: x(mark.x), y1: y(mark.y - markMm), x2: x(mark.x), y2: y(mark.y + markMm) }
        ]
      })),
      ...(ruler ? rulerContent(wish) : []),
      {
        absolutePosition: at(marginMm, footMm - 4),
        columns: [
          { text: foot, fontSize: 7.5, width: (inside - 30) * mmPt },
          {
            text: tile || (sheets.length > 1 ? `${i + 1} of ${sheets.length}` : ''),
            fontSize: 7.5,
            width: 30 * mmPt,
            alignment: 'right'
          }
        ]
      }
    ]
  };
}

/** Whose pictures they are at the left, and whose clinic at the right. */
function usualHead(wish: PrintPdfWish): Content {
  const { sheet, correction, head } = wish;
  const inside = sheet.width - 2 * marginMm;
  const { x, y } = asked(wish);
  return {
    absolutePosition: { x: x(marginMm), y: y(marginMm) },
    columns: [
      {
        width: (inside / 2) * mmPt,
        stack: [
          { text: head.title, fontSize: headPt(head.title, inside / 2), bold: true },
          { text: head.about }
        ]
      },
      {
        width: (inside / 2) * correction.width * mmPt,
        // Where pictures begin is fixed: an address has no room.
        ...clinicSide({ ...head, address: '' }, headMm - 4)
      }
    ]
  };
}

/** Each thing at its own place. */
function ownHead({ fields, logo }: PrintHead, wish: PrintPdfWish): Content[] {
  const { correction, head } = wish;
  const { x, y } = asked(wish);
  const said = (of: PlacedField): string =>
    of.what === 'words' ? of.words : of.what === 'patient' ? head.title : head[of.what];
  const image = head.logo && `data:image/png;base64,${Buffer.from(head.logo).toString('base64')}`;
  const across = (mm: number) => mm * correction.width * mmPt;
  return [
    ...fields
      .filter((of) => said(of) !== '')
      .map((of) => ({
        absolutePosition: { x: x(of.leftMm), y: y(of.topMm) },
        columns: [
          {
            width: across(of.widthMm),
            text: said(of),
            font: of.font,
            fontSize: of.pt,
            bold: of.bold,
            color: of.colour,
            alignment: of.align
          }
        ]
      })),
    ...(logo && image
      ? [{ absolutePosition: { x: x(logo.leftMm), y: y(logo.topMm) }, image, width: across(logo.widthMm) }]
      : [])
  ];
}

const groundContent = ({ sheet: { width, height }, bare }: PrintPdfWish): Content => ({
  absolutePosition: { x: 0, y: 0 },
  canvas: [
    {
      type: 'rect',
      x: 0,
      y: 0,
      w: width * mmPt,
      h: height * mmPt,
      color: bare === 'dark' ? '#000' : '#fff'
    }
  ]
});

/** A ruler across the foot of a sheet, with a mark each centimetre, and one that stands along its side. */
function rulerContent(wish: PrintPdfWish): Content[] {
  const { sheet } = wish;
  const { x, y } = asked(wish);
  const long = sheet.width - 2 * marginMm >= rulerMm + 40 ? rulerMm : shortRulerMm;
  const [left, foot] = [marginMm, sheet.height - marginMm - 8];
  const ticks = Array.from({ length: long / 10 + 1 }, (_, i) => i * 10);
  const high = (mm: number) => (mm % 50 === 0 ? 3 : 1.6);
  const upright = sheet.width - marginMm / 2;
  return [
    {
      absolutePosition: { x: 0, y: 0 },
      canvas: [
        { ...line, x1: x(left), y1: y(foot), x2: x(left + long), y2: y(foot) },
        ...ticks.map((mm) => ({
          ...line,
          x1: x(left + mm),
          y1: y(foot),
          x2: x(left + mm),
          y2: y(foot - high(mm))
        })),
        { ...line, x1: x(upright), y1: y(foot), x2: x(upright), y2: y(foot - long) },
        ...ticks.map((mm) => ({
          ...line,
          x1: x(upright),
          y1: y(foot - mm),
          x2: x(upright - high(mm)),
          y2: y(foot - mm)
        }))
      ]
    },
    {
      absolutePosition: { x: x(left + long + 3), y: y(foot) - 9 },
      text: `${long} mm, across and upright: measure them`,
      fontSize: 7.5
    }
  ];
}

async function pictureContent({ key, at, part, caption }: Placed, wish: PrintPdfWish): Promise<Content[]> {
  const { correction, pictures } = wish;
  const { jpeg, caption: words, sides } = pictures[key];
  const { x, y } = asked(wish);
  if (!jpeg)
    return [{ absolutePosition: { x: x(at.left), y: y(at.top) }, text: `${words[0] ?? ''}: ${unreadable}` }];
  const { bytes, share } = await cut(jpeg, part);
  const fit = caption && words.length > 0 ? fitted(words, caption) : null;
  // What was cut holds whole pixels: it stands where those belong.
  const placed: RectMm = {
    left: at.left + ((share.left - part.left) / part.width) * at.width,
    top: at.top + ((share.top - part.top) / part.height) * at.height,
    width: (share.width / part.width) * at.width,
    height: (share.height / part.height) * at.height
  };
  return [
    {
      absolutePosition: { x: x(placed.left), y: y(placed.top) },
      image: jpegUrl(bytes),
      width: placed.width * correction.width * mmPt,
      height: placed.height * correction.height * mmPt
    },
    ...(sides
      ? [
          {
            absolutePosition: { x: x(at.left), y: y(at.top + at.height + 0.6) },
            columns: sides.map((text, i) => ({
              text,
              fontSize: captionPt,
              bold: true,
              width: (at.width / 2) * correction.width * mmPt,
              alignment: i ? 'right' : 'left'
            }))
          }
        ]
      : []),
    ...(caption && fit
      ? [
          {
            absolutePosition: {
              x: x(caption.left),
              y: y(caption.top + (sides ? 1.3 * captionLineMm : 0))
            },
            columns: [
              {
                width: caption.width * correction.width * mmPt,
                alignment: 'center',
                stack: fit.words.map((text, i) => ({
                  text,
                  fontSize: fit.pt,
                  bold: i === 0,
                  color: i ? '#3a4743' : undefined
                }))
              }
            ]
          }
        ]
      : [])
  ];
}

/** A part of a picture in whole pixels, and which part that is. */
async function cut(
  jpeg: Uint8Array,
  part: Placed['part']
): Promise<{ bytes: Uint8Array; share: Placed['part'] }> {
  if (part.width === 1 && part.height === 1) return { bytes: jpeg, share: part };
  const { width, height } = await sharp(jpeg).metadata();
  const [left, top] = [Math.floor(part.left * width), Math.floor(part.top * height)];
  const right = Math.min(width, Math.ceil((part.left + part.width) * width));
  const foot = Math.min(height, Math.ceil((part.top + part.height) * height));
  const bytes = await sharp(jpeg)
    .extract({ left, top, width: right - left, height: foot - top })
    .jpeg({ quality: 95 })
    .toBuffer();
  return {
    bytes,
    share: {
      left: left / width,
      top: top / height,
      width: (right - left) / width,
      height: (foot - top) / height
    }
  };
}
