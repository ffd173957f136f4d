// A claims office on loopback: takes pictures as FHIR R4 DocumentReferences, each once, and answers with a tracking number.
import fs from 'node:fs';
import http from 'node:http';
import path from 'node:path';
import { answerFhir, bodyOf, outcome } from '../http';
import { type FaultKind, type Faults, faultKinds, nextFault } from '../archive/faults';

interface Held {
  identifier: string;
  tracking: string;
  receipts: number;
  document: Record<string, unknown>;
}
interface Attachment {
  data?: string;
  creation?: string;
  contentType?: string;
}

const folder = process.env.CLAIMS_FOLDER ?? path.resolve('.data/claims');
fs.mkdirSync(folder, { recursive: true });
const faults: Faults = { kind: 'none', remaining: 0 };
const held = new Map<string, Held>(
  fs
    .readdirSync(folder)
    .filter((name) => name.endsWith('.json'))
    .map((name) => JSON.parse(fs.readFileSync(path.join(folder, name), 'utf8')) as Held)
    .map((each) => [each.identifier, each])
);

/** What the office misses in a document; empty where it is whole. */
function missing(document: Record<string, unknown>): string {
  const [attachment] = ((document.content as { attachment?: Attachment }[] | undefined) ?? []).map(
    (each) => each.attachment
  );
  const contained = document.contained as { name?: { family?: string }[] }[] | undefined;
  if (!contained?.[0]?.name?.[0]?.family) return 'The name of the insured is missing.';
  if (!attachment?.creation) return 'The day on which the picture was taken is missing.';
  if (attachment.creation > new Date(Date.now() + 86_400_000).toISOString().slice(0, 10))
    return 'The day on which the picture was taken lies in the future.';
  const sides = (document.extension as { valueCode?: string }[] | undefined) ?? [];
  if (!sides.some(({ valueCode }) => valueCode === 'left' || valueCode === 'right'))
    return 'Nothing says on which side of the picture the left of the patient is.';
  const bytes = Buffer.from(attachment.data ?? '', 'base64');
  if (
    !bytes.subarray(0, 2).equals(Buffer.from([0xff, 0xd8])) &&
    !bytes.subarray(1, 4).equals(Buffer.from('PNG'))
  )
    return 'The picture is neither JPEG nor PNG.';
  return '';
}

const shown = ({ document, tracking }: Held) => ({
  ...document,
  identifier: [
    ...(document.identifier as unknown[]),
    {
      type: { coding: [{ system: 'http://terminology.hl7.org/CodeSystem/v2-0203', code: 'FILL' }] },
      value: tracking
    }
  ]
});

function keep(identifier: string, document: Record<string, unknown>): Held {
  const tracking = `AT-${new Date().getFullYear()}-${String(held.size + 1).padStart(6, '0')}`;
  const kept = { identifier, tracking, receipts: 1, document };
  const file = path.join(folder, `${tracking}.json`);
  fs.writeFileSync(`${file}.part`, JSON.stringify(kept));
  fs.renameSync(`${file}.part`, file);
  held.set(identifier, kept);
  return kept;
}

async function take(request: http.IncomingMessage, response: http.ServerResponse): Promise<void> {
  const fault = nextFault(faults);
  const body = await bodyOf(request);
  if (fault === 'stall') return;
  if (fault === 'cut-before') return void response.destroy();
  if (fault === 'refuse') return answerFhir(response, 503, outcome('Not now.'));
  const document = JSON.parse(body.toString('utf8')) as Record<string, unknown>;
  const [own] = (document.identifier as { system: string; value: string }[] | undefined) ?? [];
  const why = own ? missing(document) : 'It has no identifier.';
  if (fault === 'reject' || why !== '')
    return answerFhir(response, 422, outcome(why || 'The insured is not known here.'));
  const identifier = `${own.system}|${own.value}`;
  const known = held.get(identifier);
  const asked = decodeURIComponent(String(request.headers['if-none-exist'] ?? '')).replace('identifier=', '');
  if (known && asked === identifier) return answerFhir(response, 200, shown(known));
  // Whoever does not ask is counted, so that a second copy shows.
  if (known) known.receipts += 1;
  const kept = known ?? keep(identifier, document);
  if (fault === 'cut-after') return void response.destroy();
  answerFhir(response, 201, shown(kept));
}

async function route(request: http.IncomingMessage, response: http.ServerResponse): Promise<void> {
  const url = new URL(request.url ?? '/', 'http://claims');
  if (url.pathname === '/faults' && request.method === 'PUT') {
    const wish = JSON.parse((await bodyOf(request)).toString()) as { kind: FaultKind; count?: number };
    if (!faultKinds.includes(wish.kind))
      return answerFhir(response, 400, outcome(`one of ${faultKinds.join(', ')}`));
    Object.assign(faults, { kind: wish.kind, remaining: wish.count ?? Number.MAX_SAFE_INTEGER });
    return answerFhir(response, 200, faults);
  }
  if (url.pathname === '/receipts')
    return answerFhir(
      response,
      200,
      [...held.values()].map(({ tracking, receipts }) => ({ tracking, receipts }))
    );
  if (url.pathname === '/metadata')
    return answerFhir(response, 200, {
      resourceType: 'CapabilityStatement',
      status: 'active',
      fhirVersion: '4.0.1'
    });
  if (url.pathname !== '/DocumentReference') return answerFhir(response, 404, outcome('Not here.'));
  if (request.method === 'POST') return take(request, response);
  const found = held.get(url.searchParams.get('identifier') ?? '');
  answerFhir(response, 200, {
    resourceType: 'Bundle',
    type: 'searchset',
    total: found ? 1 : 0,
    entry: found ? [{ resource: shown(found) }] : []
  });
}

http
  .createServer((request, response) => {
    route(request, response).catch((error: unknown) => {
      console.error((error as Error).name);
      if (!response.headersSent) answerFhir(response, 400, outcome('It could not be read.'));
    });
  })
  .listen(Number(process.env.PORT ?? 4793), '127.0.0.1', () => console.log('claims office listens'));
process.on('SIGTERM', () => process.exit(0));
