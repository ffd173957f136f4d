import { courseBox, courseDrawing } from '../../core/report/courseDrawing';
import type { PaperBox, PaperShape } from '../../core/report/paperShapes';
import { postureBox, postureShapes } from '../../core/report/postureShapes';
import type { ResultsPaper } from '../../core/report/resultsPaper';
import type { Content } from './paperFonts';
import { grey, heading, mmPt } from './paperSheet';

/** How wide a picture stands there, and beside a figure, which takes room too. */
const pictureMm = 40;
const besideFigureMm = 30;

const svgOf = (shapes: readonly PaperShape[], box: PaperBox, dashes: string) =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${box.left} ${box.top} ${box.width} ${box.height}">${shapes
    .map(
      ({ d, stroke, width, fill, dashed }) =>
        `<path d="${d}" stroke="${stroke}" stroke-width="${width}" fill="${fill ?? 'none'}"${dashed ? ` stroke-dasharray="${dashes}"` : ''} stroke-linejoin="round" stroke-linecap="round"/>`
    )
    .join('')}</svg>`;

/** A table of thin lines under each row. */
export const lines = {
  hLineWidth: (i: number) => (i === 0 ? 0 : 0.5),
  vLineWidth: () => 0,
  hLineColor: () => grey,
  paddingLeft: () => 0,
  paddingRight: () => 8
};

/** What a guide gave: its pictures, what was drawn from them, and its results with their ranges and courses. */
export function guideContent(
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

/** Single readings, a line each. */
export const readings = (all: ResultsPaper['readings']): Content => ({
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
