// A small practice system (FHIR R4: Patient, Appointment, ImagingStudy, DocumentReference) on loopback, with the demo day, and faults to switch on.
import http from 'node:http';
import { demoDay } from '../../demo/practiceDay';

const kept = ['Patient', 'Appointment', 'ImagingStudy', 'DocumentReference'];
const fhirJson = 'application/fhir+json';
type Resource = { resourceType: string; id: string; [field: string]: unknown };

const held = new Map<string, Resource>();
const nameOf = ({ resourceType, id }: Resource) => `${resourceType}/${id}`;
let filledFor = '';
/** A day that begins while it runs has its appointments too; what was changed by hand meanwhile stays. */
function fill(): void {
  const now = new Date();
  const day = now.toISOString().slice(0, 10);
  if (day === filledFor) return;
  filledFor = day;
  for (const resource of demoDay(now)) if (!held.has(nameOf(resource))) held.set(nameOf(resource), resource);
}
let away = false;

async function bodyOf(request: http.IncomingMessage): Promise<unknown> {
  const chunks: Buffer[] = [];
  for await (const chunk of request) chunks.push(chunk as Buffer);
  return JSON.parse(Buffer.concat(chunks).toString('utf8') || '{}');
}

function answer(response: http.ServerResponse, status: number, body: unknown): void {
  response.writeHead(status, { 'content-type': fhirJson });
  response.end(JSON.stringify(body));
}

const outcome = (diagnostics: string) => ({
  resourceType: 'OperationOutcome',
  issue: [{ severity: 'error', code: 'processing', diagnostics }]
});

/** `ge2026-11-26T00:00:00Z` and `lt...`: the prefixes that a day is asked with. */
function within(start: string, wanted: readonly string[]): boolean {
  const at = Date.parse(start);
  return wanted.every((each) => {
    const bound = Date.parse(each.slice(2));
    return each.startsWith('ge') ? at >= bound : each.startsWith('lt') ? at < bound : true;
  });
}

const patientOf = ({ participant }: Resource): Resource[] =>
  (participant as { actor: { reference: string } }[]).flatMap(({ actor }) => held.get(actor.reference) ?? []);

function appointments({ searchParams }: URL): Resource {
  const all = [...held.values()].filter(
    (each) => each.resourceType === 'Appointment' && within(each.start as string, searchParams.getAll('date'))
  );
  const patients = searchParams.getAll('_include').includes('Appointment:patient')
    ? [...new Map(all.flatMap(patientOf).map((each) => [nameOf(each), each])).values()]
    : [];
  const entry = [
    ...all.map((resource) => ({ resource, search: { mode: 'match' } })),
    ...patients.map((resource) => ({ resource, search: { mode: 'include' } }))
  ];
  return { resourceType: 'Bundle', id: 'found', type: 'searchset', total: all.length, entry };
}

async function handle(request: http.IncomingMessage, response: http.ServerResponse): Promise<void> {
  const url = new URL(request.url ?? '/', 'http://localhost');
  const [, kind, id] = url.pathname.split('/');
  if (kind === 'faults' && request.method === 'PUT') {
    away = ((await bodyOf(request)) as { away?: boolean }).away ?? false;
    return answer(response, 200, { away });
  }
  fill();
  if (away) return answer(response, 503, outcome('closed for the night'));
  if (kind === 'metadata')
    return answer(response, 200, {
      resourceType: 'CapabilityStatement',
      fhirVersion: '4.0.1',
      format: ['json'],
      kind: 'instance',
      status: 'active'
    });
  if (request.method === 'PUT' && id && kept.includes(kind)) {
    const resource = { ...((await bodyOf(request)) as Resource), resourceType: kind, id };
    held.set(nameOf(resource), resource);
    return answer(response, 200, resource);
  }
  if (request.method === 'DELETE' && held.delete(`${kind}/${id}`))
    return answer(response, 200, outcome('gone'));
  if (kind === 'Appointment' && !id) return answer(response, 200, appointments(url));
  if (kept.includes(kind) && !id) {
    const all = [...held.values()].filter(({ resourceType }) => resourceType === kind);
    const entry = all.map((resource) => ({ resource }));
    return answer(response, 200, {
      resourceType: 'Bundle',
      type: 'searchset',
      total: all.length,
      entry
    });
  }
  const one = held.get(`${kind}/${id}`);
  return one ? answer(response, 200, one) : answer(response, 404, outcome(`there is no ${kind}/${id}`));
}

http
  .createServer((request, response) => {
    handle(request, response).catch(() => answer(response, 400, outcome('this could not be read')));
  })
  .listen(Number(process.env.PORT ?? 4790), '127.0.0.1');
process.on('SIGTERM', () => process.exit(0));
