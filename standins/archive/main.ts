// A small DICOMweb archive (STOW-RS, QIDO-RS, WADO-RS) on loopback, with faults that can be switched on.
import http from 'node:http';
import path from 'node:path';
import { answer, bodyOf } from '../http';
import { type FaultKind, type Faults, faultKinds, nextFault } from './faults';
import { readParts, writeParts } from './multipart';
import { type Held, Shelf } from './shelf';
import { pixelsOf, wrapped } from './wrapping';

const shelf = new Shelf(process.env.ARCHIVE_FOLDER ?? path.resolve('.data/archive'));
const faults: Faults = { kind: 'none', remaining: 0 };
const dicomJson = 'application/dicom+json';

const value = (vr: string, text: string) =>
  text === '' ? { vr } : { vr, Value: vr === 'PN' ? [{ Alphabetic: text }] : [text] };

function described(held: Held): Record<string, unknown> {
  return {
    '00080016': value('UI', held.classUid),
    '00080018': value('UI', held.instanceUid),
    '00080020': value('DA', held.studyDate),
    '00080060': value('CS', held.modality),
    '00100010': value('PN', held.patientName),
    '00100020': value('LO', held.patientId),
    '0020000D': value('UI', held.studyUid),
    '0020000E': value('UI', held.seriesUid)
  };
}

function onePer(list: Held[], key: 'studyUid' | 'seriesUid'): Held[] {
  return [...new Map(list.map((held) => [held[key], held])).values()];
}

/** Whether it takes files alone, as many archives do. */
const filesOnly = process.env.ARCHIVE_FILES_ONLY !== undefined;

/** Instances as they came, or wrapped here from what is said of them and their pixels. */
async function filesIn(contentType: string, body: Buffer): Promise<Buffer[] | 'not here'> {
  const told = /type="?application\/dicom\+json/i.test(contentType);
  if (told && filesOnly) return 'not here';
  const parts = await readParts(contentType, body);
  return told ? wrapped(parts) : parts.map(({ bytes }) => bytes);
}

async function store(request: http.IncomingMessage, response: http.ServerResponse): Promise<void> {
  const fault = nextFault(faults);
  const body = await bodyOf(request);
  if (fault === 'stall') return;
  if (fault === 'cut-before') {
    response.destroy();
    return;
  }
  if (fault === 'refuse') return answer(response, 503, 'text/plain', 'busy');
  const files = await filesIn(request.headers['content-type'] ?? '', body).catch(() => null);
  if (!files || files.length === 0) return answer(response, 400, 'text/plain', 'no parts');
  if (files === 'not here') return answer(response, 415, 'text/plain', 'files only');
  const refused = fault === 'reject';
  const kept = refused ? [] : files.map((file) => shelf.keep(file));
  if (fault === 'cut-after') {
    response.destroy();
    return;
  }
  const failed = refused || kept.some((held) => held === null);
  const stored = kept.filter((held) => held !== null);
  const result = {
    '00081199': {
      vr: 'SQ',
      Value: stored.map((held) => ({
        '00081150': value('UI', held.classUid),
        '00081155': value('UI', held.instanceUid)
      }))
    },
    ...(failed
      ? {
          '00081198': { vr: 'SQ', Value: [{ '00081197': { vr: 'US', Value: [refused ? 0xa700 : 0xc000] } }] }
        }
      : {})
  };
  answer(response, failed ? 409 : 200, dicomJson, JSON.stringify(result));
}

function search(list: Held[], response: http.ServerResponse): void {
  if (list.length === 0) {
    response.writeHead(204).end();
    return;
  }
  answer(response, 200, dicomJson, JSON.stringify(list.map(described)));
}

function retrieve(list: Held[], response: http.ServerResponse): void {
  if (list.length === 0) return answer(response, 404, 'text/plain', 'not here');
  const { contentType, body } = writeParts(list.map((held) => shelf.bytes(held)));
  answer(response, 200, contentType, body);
}

function frames(list: Held[], request: http.IncomingMessage, response: http.ServerResponse): void {
  if (list.length === 0) return answer(response, 404, 'text/plain', 'not here');
  const type = /type="?([^";]+)/.exec(request.headers.accept ?? '')?.[1] ?? 'application/octet-stream';
  const { contentType, body } = writeParts([pixelsOf(shelf.bytes(list[0]))], type);
  answer(response, 200, contentType, body);
}

async function setFaults(request: http.IncomingMessage, response: http.ServerResponse): Promise<void> {
  const wish = JSON.parse((await bodyOf(request)).toString()) as { kind: FaultKind; count?: number };
  if (!faultKinds.includes(wish.kind))
    return answer(response, 400, 'text/plain', `one of ${faultKinds.join(', ')}`);
  faults.kind = wish.kind;
  faults.remaining = wish.count ?? Number.MAX_SAFE_INTEGER;
  answer(response, 200, 'application/json', JSON.stringify(faults));
}

async function route(request: http.IncomingMessage, response: http.ServerResponse): Promise<void> {
  const url = new URL(request.url ?? '/', 'http://archive');
  const steps = url.pathname.split('/').filter(Boolean);
  const [studies, studyUid, second, seriesUid, , instanceUid] = steps;
  if (url.pathname === '/status')
    return answer(response, 200, 'application/json', JSON.stringify({ faults }));
  if (url.pathname === '/faults' && request.method === 'PUT') return setFaults(request, response);
  if (url.pathname === '/receipts') {
    const receipts = shelf.find({}).map((held) => [held.instanceUid, held.receipts]);
    return answer(response, 200, 'application/json', JSON.stringify(Object.fromEntries(receipts)));
  }
  // An archive whose keeper lets nobody in: whatever is sent there fails for good.
  if (studies === 'locked') return answer(response, 403, 'text/plain', 'not allowed');
  if (studies !== 'studies') return answer(response, 404, 'text/plain', 'not here');
  if (request.method === 'POST') return store(request, response);
  if (steps.length === 1) {
    const wanted = {
      patientId: url.searchParams.get('PatientID') ?? undefined,
      studyUid: url.searchParams.get('StudyInstanceUID') ?? undefined
    };
    return search(onePer(shelf.find(wanted), 'studyUid'), response);
  }
  if (steps.length === 2) return retrieve(shelf.find({ studyUid }), response);
  if (second === 'instances') {
    return search(
      shelf.find({ studyUid, instanceUid: url.searchParams.get('SOPInstanceUID') ?? undefined }),
      response
    );
  }
  if (steps.length === 3) return search(onePer(shelf.find({ studyUid }), 'seriesUid'), response);
  if (steps.length === 5) return search(shelf.find({ studyUid, seriesUid }), response);
  if (steps[6] === 'frames')
    return frames(shelf.find({ studyUid, seriesUid, instanceUid }), request, response);
  retrieve(shelf.find({ studyUid, seriesUid, instanceUid }), response);
}

const server = http.createServer((request, response) => {
  route(request, response).catch((error: unknown) => {
    console.error((error as Error).name);
    if (!response.headersSent) answer(response, 500, 'text/plain', 'a fault of the archive');
  });
});
server.listen(Number(process.env.PORT ?? 4790), '127.0.0.1', () => console.log('archive listens'));
process.on('SIGTERM', () => process.exit(0));
