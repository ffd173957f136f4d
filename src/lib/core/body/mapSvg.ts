import { placeKey, showPlaces } from '../anatomy/place';
import type { Notation } from '../anatomy/teeth';
import type { BodyDrawing } from './drawing';
import { crownPath } from './drawings';

const ink = '#14211d';
const filled = '#9dbfb4';
const pale = '#dfe5e1';
const lettersIn = 11;

/**
 * A drawing of the body for paper: places with pictures are filled and say how many there are, the others hollow.
 * @param counts how many pictures each place has, by its key
 */
export function mapSvg(
  { width, height, outline, words, spots }: BodyDrawing,
  counts: Readonly<Record<string, number>>,
  notation: Notation
): string {
  const text = (x: number, y: number, says: string, bold = false) =>
    `<text x="${x}" y="${y}" text-anchor="middle" font-family="Atkinson" font-size="${lettersIn}"${bold ? ' font-weight="bold"' : ''} fill="${ink}">${escaped(says)}</text>`;
  const drawn = spots.map((spot) => {
    const count = counts[placeKey(spot.place)] ?? 0;
    const look = `fill="${count > 0 ? filled : 'none'}" stroke="${ink}" stroke-width="${count > 0 ? 1.6 : 0.8}"`;
    const shape =
      spot.shape === 'crown'
        ? `<path d="${crownPath(spot.width, spot.height)}" ${look}/>`
        : `<rect x="${-spot.width / 2}" y="${-spot.height / 2}" width="${spot.width}" height="${spot.height}" rx="${Math.min(spot.width, spot.height) / 2}" ${look}/>`;
    const named = spot.label && !(count > 0 && spot.label.x === spot.x && spot.label.y === spot.y);
    return [
      `<g transform="translate(${spot.x} ${spot.y}) rotate(${spot.turnDeg})">${shape}</g>`,
      count > 0 ? text(spot.x, spot.y + 4, String(count), true) : '',
      named ? text(spot.label!.x, spot.label!.y + 4, showPlaces([spot.place], notation), count > 0) : ''
    ].join('');
  });
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" width="${width}" height="${height}">`,
    ...outline.map(
      ({ path, stroke }) =>
        `<path d="${path}" fill="${stroke > 0 ? 'none' : pale}"${stroke > 0 ? ` stroke="${pale}" stroke-width="${stroke}" stroke-linecap="round" stroke-linejoin="round"` : ''}/>`
    ),
    ...words.map(({ text: says, x, y }) => text(x, y, says)),
    ...drawn,
    '</svg>'
  ].join('');
}

const escaped = (says: string): string =>
  says.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;');
