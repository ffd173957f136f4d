import path from 'node:path';
import pdfmake from 'pdfmake';
import sharp from 'sharp';
import { courseBox, courseDrawing } from '../../core/report/courseDrawing';
import type { PaperBox, PaperShape } from '../../core/report/paperShapes';
import { postureBox, postureShapes } from '../../core/report/postureShapes';
import type { ResultsPaper } from '../../core/report/resultsPaper';

/** What is put on paper, with the small pictures that stand on it, as WebP, by their pictures. */
export interface ResultsPdfWish {
  paper: ResultsPaper;
  /** How the patient is named, here and in the document's own properties, and where and when it was. */
  head: { title: string; about: string; clinic: string; when: string };
  foot: string;
  small: Record<string, Uint8Array>;
}

const fontFolder = path.resolve('node_modules/@fontsource/atkinson-hyperlegible-next/files');
const font = (weight: number) =>
  path.join(fontFolder, `atkinson-hyperlegible-next-latin-${weight}-normal.woff`);
const mmPt = 72 / 25.4;
const grey = '#9aa5a0';
/** How wide a picture stands there, and beside a figure, which takes room too. */
const pictureMm = 40;
const besideFigureMm = 30;

type Content = Record<string, unknown>;
interface Following {
  getFollowingNodesOnPage(): readonly Content[];
}

const svgOf = (shapes: readonly PaperShape[], box: PaperBox, dashes: string) =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${box.left} ${box.top} ${box.width} ${box.height}">${shapes
    .map(
      ({ d, stroke, width, fill, dashed }) =>
        `<path d="${d}" stroke="${stroke}" stroke-width="${width}" fill="${fill ?? 'none'}"${dashed ? ` stroke-dasharray="${dashes}"` : ''} stroke-linejoin="round" stroke-linecap="round"/>`
    )
    .join('')}</svg>`;

/**
 * The results of a visit as a PDF of A4 sheets: the fonts are in it, its text can be read out and searched for, and its
 * properties name the patient as its head does and in no other way.
 */
export async function resultsPdf({ paper, head, foot, small }: ResultsPdfWish): Promise<Uint8Array> {
  // Nothing is fetched, and no file is read but the fonts that ship.
  pdfmake.setUrlAccessPolicy(() => false);
  pdfmake.setLocalAccessPolicy((file) => path.resolve(file).startsWith(fontFolder));
  pdfmake.setFonts({ Atkinson: { normal: font(400), bold: font(700) } });
  const pictures = new Map(
    await Promise.all(
      Object.entries(small).map(async ([pictureId, webp]) => {
        const jpeg = await sharp(webp).flatten({ background: '#000' }).jpeg({ quality: 90 }).toBuffer();
        return [pictureId, `data:image/jpeg;base64,${jpeg.toString('base64')}`] as const;
      })
    )
  );
  const document = {
    info: {
      title: `Results of ${head.title}, ${head.when}`,
      author: head.clinic,
      creator: 'Yonder Tray',
      producer: 'Yonder Tray'
    },
    language: 'en-GB',
    tagged: true,
    displayTitle: true,
    pageSize: 'A4',
    pageMargins: [18, 16, 18, 18].map((mm) => mm * mmPt),
    defaultStyle: { font: 'Atkinson', fontSize: 10, lineHeight: 1.15 },
    styles: { small: { fontSize: 8.5 } },
    content: [
      {
        columns: [
          { stack: [{ text: head.title, fontSize: 16, bold: true }, { text: head.about }] },
          { stack: [{ text: head.clinic, bold: true }, { text: head.when }], alignment: 'right' }
        ]
      },
      rule(),
      ...paper.guides.flatMap((guide) => guideContent(guide, pictures)),
      ...(paper.readings.length > 0 ? [heading('Readings'), readings(paper.readings)] : []),
      ...(paper.guides.length + paper.readings.length === 0
        ? [{ text: 'Nothing has been measured in this visit yet.' }]
        : [])
    ],
    // No heading stands alone at the foot of a sheet.
    pageBreakBefore: ({ headlineLevel }: Content, { getFollowingNodesOnPage }: Following) =>
      headlineLevel === 1 && getFollowingNodesOnPage().length === 0,
    footer: (sheet: number, of: number): Content => ({
      margin: [18 * mmPt, 0, 18 * mmPt, 0],
      columns: [
        { text: foot, style: 'small' },
        { text: of > 1 ? `${sheet} of ${of}` : '', style: 'small', width: 'auto', noWrap: true }
      ]
    })
  };
  return new Uint8Array(await pdfmake.createPdf(document).getBuffer());
}

const rule = (): Content => ({
  canvas: [{ type: 'line', x1: 0, y1: 0, x2: 174 * mmPt, y2: 0, lineWidth: 0.6, lineColor: grey }],
  margin: [0, 4, 0, 10]
});
const heading = (text: string): Content => ({
  text,
  fontSize: 12.5,
  bold: true,
  margin: [0, 6, 0, 2],
  headlineLevel: 1
});
const lines = {
  hLineWidth: (i: number) => (i === 0 ? 0 : 0.5),
  vLineWidth: () => 0,
  hLineColor: () => grey,
  paddingLeft: () => 0,
  paddingRight: () => 8
};

function guideContent(
  { name, done, warning, figure, pictures, since, lines: results, remarks }: ResultsPaper['guides'][number],
  shown: ReadonlyMap<string, string>
): Content[] {
  const ranged = results.some(({ range }) => range);
  const drawn = results.some(({ course }) => course.length > 1);
  const head = [
    'Result',
    'Value',
    ...(ranged ? ['Range'] : []),
    ...(since ? [`Since ${since}`] : []),
    ...(drawn ? ['Over time'] : [])
  ];
  const wide = (figure ? besideFigureMm : pictureMm) * mmPt;
  const seen = (['front', 'side'] as const).flatMap((from) => {
    const parts = figure?.[from];
    return parts
      ? [
          {
            svg: svgOf(postureShapes(parts, from), postureBox, '12 10'),
            width: wide,
            margin: [0, 4, 16, 4]
          }
        ]
      : [];
  });
  const small = pictures.flatMap(({ pictureId, name: words }) => {
    const image = shown.get(pictureId);
    return image
      ? [
          {
            stack: [
              { image, fit: [wide, 1.6 * wide] },
              { text: words, style: 'small' }
            ],
            width: wide
          }
        ]
      : [];
  });
  return [
    heading(name),
    { text: [{ text: done }, ...(warning ? [{ text: ` ${warning}`, bold: true }] : [])] },
    ...(small.length + seen.length > 0
      ? [{ columns: [...small, ...seen], columnGap: 10, margin: [0, 6, 0, 6] }]
      : []),
    {
      layout: lines,
      margin: [0, 6, 0, 4],
      table: {
        headerRows: 1,
        dontBreakRows: true,
        widths: [
          '*',
          'auto',
          ...(ranged ? [34 * mmPt] : []),
          ...(since ? [38 * mmPt] : []),
          ...(drawn ? ['auto'] : [])
        ],
        body: [
          head.map((text) => ({ text, bold: true, style: 'small' })),
          ...results.map((line) => [
            { text: line.name },
            {
              stack: [
                { text: line.value, bold: true, noWrap: true },
                ...(line.stage ? [{ text: line.stage }] : [])
              ]
            },
            ...(ranged ? [{ text: line.range || '–', bold: line.isOutside }] : []),
            ...(since ? [{ text: line.change || '–' }] : []),
            ...(drawn
              ? [
                  line.course.length > 1
                    ? {
                        svg: svgOf(courseDrawing(line.course, line.limits), courseBox, '3 2'),
                        width: 30 * mmPt
                      }
                    : { text: '' }
                ]
              : [])
          ])
        ]
      }
    },
    ...remarks.map((text) => ({ text, style: 'small' }))
  ];
}

const readings = (all: ResultsPaper['readings']): Content => ({
  layout: lines,
  table: {
    widths: ['*', 'auto', 'auto'],
    dontBreakRows: true,
    body: all.map(({ name, value, confirmed }) => [
      { text: name },
      { text: value, bold: true },
      { text: confirmed }
    ])
  }
});
