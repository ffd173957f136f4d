// Joins the demo clinic's nine takes of one eye and draws its maps, to be looked at:
//   npx tsx scripts/corneaSheet.ts FILE.png
import sharp from 'sharp';
import { roomVisits } from '../demo/rooms';
import { type ColourScale, relativeScale } from '../src/lib/core/cornea/colourScale';
import { type CorneaMap, type MapKind, contoursOf, corneaMap } from '../src/lib/core/cornea/corneaMap';
import type { TakeToJoin } from '../src/lib/core/cornea/join';
import { lensValues } from '../src/lib/core/cornea/lens';
import { belowOverAbove, keratometry } from '../src/lib/core/cornea/maps';
import { type MeasuredCornea, sheetCornea, takeCornea } from '../src/lib/core/cornea/measured';
import { readTake } from '../src/lib/core/cornea/readTake';
import { judgedSheet } from '../src/lib/core/cornea/spoilt';
import { quillTarget as target } from '../src/lib/core/cornea/target';
import { rangeTo } from '../src/lib/core/phantom/scenes/eyeTakes';
import { rendered } from '../standins/render/jobs';

const file = process.argv[2] ?? '.data/cornea-sheet.png';
const takes: (TakeToJoin & { name: string })[] = [];
const qualities: Parameters<typeof judgedSheet>[1][number][] = [];
for (const { name, job } of roomVisits.flatMap(({ pictures }) => pictures)) {
  if (job.kind !== 'eye') continue;
  const { wish } = job;
  const range = { mm: rangeTo(wish.cornea, wish.pose, target), uncertaintyMm: 0.005 };
  const read = readTake(rendered(job).frames[0], target, range);
  if (read.outcome === 'not read') {
    console.log(`${name}: ${read.because}`);
    continue;
  }
  const { gazeRightDeg, gazeUpDeg } = wish.pose;
  takes.push({ name, fit: read.fit, gazeRightDeg, gazeUpDeg });
  qualities.push(read.quality);
}
const { sheet, joined, verdicts } = judgedSheet(takes, qualities, target);
verdicts.forEach(({ averageUm, because }, i) =>
  console.log(
    `${takes[i].name}: quality ${qualities[i].percent} %, ${averageUm.toFixed(1)} micrometres. ${because}`
  )
);
const joinedEye = sheetCornea(
  sheet,
  joined.map((i) => takes[i])
);
const alone = takeCornea(takes[0].fit);

const panelPx = 380;
const reachMm = 6;
const px = (mm: number) => panelPx / 2 + (mm * panelPx) / (2 * reachMm);

function drawn(title: string, eye: MeasuredCornea, kind: MapKind, scale: ColourScale | null): string {
  const map = corneaMap(eye, kind, { stepMm: 0.08, radiusMm: reachMm });
  const used = scale ?? relativeScale(map);
  const levels = used.steps.map(({ from }) => (from === -Infinity ? -1e9 : from));
  const fills = contoursOf(map, levels).map(({ outlines }, i) => {
    const path = outlines
      .map((ring) => `M${ring.map(({ x, y }) => `${px(x)},${px(y)}`).join('L')}Z`)
      .join('');
    return `<path d="${path}" fill="${used.steps[i].colour}" fill-rule="evenodd"/>`;
  });
  const circles = [3, 7, 11.5].map(
    (mm) =>
      `<circle cx="${px(0)}" cy="${px(0)}" r="${px(mm / 2) - px(0)}" fill="none" stroke="#fff" stroke-opacity=".55" stroke-width="1"/>`
  );
  return `<text x="8" y="22" class="title">${title}</text><g transform="translate(0 34)"><rect width="${panelPx}" height="${panelPx}" fill="#0b0f0e"/>${fills.join('')}${circles.join('')}</g>${legend(used, map)}`;
}

function legend({ steps, kind, stepSize }: ColourScale, { unit, over }: CorneaMap): string {
  const h = panelPx / steps.length;
  const boxes = steps.map(({ from, colour }, i) => {
    const y = 34 + panelPx - (i + 1) * h;
    const label =
      i > 0 && i % 2 === 1
        ? `<text x="${panelPx + 34}" y="${y + h + 4}">${from.toFixed(unit === 'D' ? 2 : 1)}</text>`
        : '';
    return `<rect x="${panelPx + 8}" y="${y}" width="20" height="${h + 0.5}" fill="${colour}"/>${label}`;
  });
  const message = `${kind}, steps of ${stepSize} ${unit}${over ? `, over a ${over}` : ''}`;
  return `${boxes.join('')}<text x="8" y="${panelPx + 54}">${message}</text>`;
}

const shared = relativeScale(corneaMap(joinedEye, 'axial'));
const panels = [
  drawn('Axial, straight ahead alone', alone, 'axial', shared),
  drawn('Axial, joined', joinedEye, 'axial', shared),
  drawn('Tangential, joined', joinedEye, 'tangential', null),
  drawn('Height over sphere, joined', joinedEye, 'over sphere', null)
];
const { flatD, steepD, steepAxisDeg } = keratometry(joinedEye.heights);
const lens = lensValues(joinedEye);
const lines = [
  `Keratometry ${flatD.toFixed(2)} / ${steepD.toFixed(2)} D, steep at ${steepAxisDeg.toFixed(0)}°. Lower half over upper ${belowOverAbove(joinedEye.heights, joinedEye.hasData).toFixed(2)} D. Asphericity Q ${lens.q.toFixed(2)} ± ${(2 * lens.qUncertainty).toFixed(3)}.`,
  `Covered ${(100 * joinedEye.coverage.share).toFixed(1)} % of 11.5 mm (straight ahead alone ${(100 * alone.coverage.share).toFixed(1)} %).`,
  ...lens.sags
    .filter((_, i) => i % 2 === 0)
    .map(
      ({ chordMm, sagMm, uncertaintyMm, description }) =>
        `Sag at ${chordMm} mm: ${sagMm.toFixed(3)} ± ${(2 * uncertaintyMm).toFixed(3)} mm. ${description}`
    )
];
const columnPx = panelPx + 100;
const rowPx = panelPx + 72;
const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${2 * columnPx}" height="${2 * rowPx + 24 * lines.length + 20}" font-family="Atkinson Hyperlegible Next, sans-serif" font-size="13" fill="#d9ded9"><style>.title{font-size:16px;font-weight:600}</style><rect width="100%" height="100%" fill="#161b19"/>${panels
  .map(
    (panel, i) =>
      `<g transform="translate(${(i % 2) * columnPx + 12} ${Math.floor(i / 2) * rowPx + 6})">${panel}</g>`
  )
  .join(
    ''
  )}${lines.map((line, i) => `<text x="20" y="${2 * rowPx + 22 + 24 * i}">${line}</text>`).join('')}</svg>`;
await sharp(Buffer.from(svg)).png().toFile(file);
console.log(lines.join('\n'));
