import { randomUUID } from 'node:crypto';
import { password } from '../demo/clinic';
import { Asking } from '../e2e/harness/asking';
import type { RunningClinic } from '../e2e/harness/running';
import { plainPrint } from '../src/lib/core/print/printWish';
import { type Row, median, times } from './report';

const rounds = 6;

/** Papers of a visit of eighteen pictures, against writing the same pictures as JPEG one after the other. */
export async function benchPapers(clinic: RunningClinic): Promise<Row[]> {
  const orsin = await Asking.as(clinic, 'orsin', password);
  const [{ visit_id: visitId }] = await clinic.rows<{ visit_id: string }>(
    'select visit_id from picture group by visit_id order by count(*) desc limit 1'
  );
  const keepers = await clinic.rows<{ picture_id: string }>(
    'select picture_id from standing where visit_id = $1 and keeper',
    [visitId]
  );
  const pictureIds = keepers.map(({ picture_id: id }) => id);
  const jpegs = await times(rounds, async () => {
    for (const id of pictureIds) await orsin.bytes(`/api/pictures/${id}/out?as=jpeg`);
  });
  const report = await times(rounds, () => orsin.bytes(`/api/visits/${visitId}/report`));
  const tray = await times(rounds, async () => {
    const wish = { ...plainPrint, pictureIds, way: 'tray', lying: true };
    const { status, text } = await orsin.send('POST', `/api/visits/${visitId}/print`, wish);
    if (status !== 200) throw new Error(text);
  });
  const letterUrl = await letterOf(orsin, visitId, pictureIds.slice(0, lettersPictures));
  const letter = await times(rounds, () => orsin.bytes(letterUrl));
  const reference = `${pictureIds.length} JPEGs`;
  const referenceMs = median(jpegs.slice(1));
  return [
    {
      name: 'The report of a visit, until its PDF is there',
      oursMs: median(report.slice(1)),
      reference,
      referenceMs,
      limit: 1
    },
    {
      name: 'Its pictures as on the tray, until their PDF is there',
      oursMs: median(tray.slice(1)),
      reference,
      referenceMs,
      limit: 1
    },
    {
      name: `A letter with ${lettersPictures} of them, until its PDF is there`,
      oursMs: median(letter.slice(1)),
      reference,
      referenceMs,
      limit: 0.7
    }
  ];
}

const lettersPictures = 4;
/** A letter with places for pictures, two side by side. */
async function letterOf(orsin: Asking, visitId: string, pictureIds: readonly string[]): Promise<string> {
  const said = { names: 'initials', colleagueId: null, reasons: [], procedures: [] };
  const url = `/api/visits/${visitId}/letters`;
  const ask = async (at: string, wish: object) => {
    const { status, text } = await orsin.send('POST', at, wish);
    if (status !== 200) throw new Error(text);
    return JSON.parse(text) as { letterId: string };
  };
  const { letterId } = await ask(url, { template: { shipped: 'referral' }, ...said });
  const places = pictureIds.map((pictureId, i) => ({
    id: randomUUID(),
    xMm: 90 * (i % 2),
    yMm: 80 * Math.floor(i / 2),
    widthMm: 80,
    heightMm: 65,
    want: { kind: 'picked', pictureId },
    caption: '',
    drawn: true,
    atMostMonths: null
  }));
  const body = { type: 'doc', content: [{ type: 'pictures', attrs: { places } }, { type: 'readings' }] };
  await ask(`${url}/${letterId}`, { of: 1, title: 'Letter', body, ...said });
  return `${url}/${letterId}`;
}
