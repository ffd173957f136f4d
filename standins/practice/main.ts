// A small practice system (FHIR R4: Patient, Appointment, ImagingStudy, DocumentReference) on loopback, with the demo day, and faults to switch on.
import http from 'node:http';
import { demoDay } from '../../demo/practiceDay';
import { answerFhir, bodyOf, outcome } from '../http';

const kept = ['Patient', 'Appointment', 'ImagingStudy', 'DocumentReference'];
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

const jsonOf = async (request: http.IncomingMessage): Promise<unknown> =>
  JSON.parse((await bodyOf(request)).toString('utf8') || '{}');

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
    away = ((await jsonOf(request)) as { away?: boolean }).away ?? false;
    return answerFhir(response, 200, { away });
  }
  fill();
  if (away) return answerFhir(response, 503, outcome('closed for the night'));
  if (kind === 'metadata')
    return answerFhir(response, 200, {
      resourceType: 'CapabilityStatement',
      fhirVersion: '4.0.1',
      format: ['json'],
      kind: 'instance',
      status: 'active'
    });
  if (request.method === 'PUT' && id && kept.includes(kind)) {
    const resource = { ...((await jsonOf(request)) as Resource), resourceType: kind, id };
    held.set(nameOf(resource), resource);
    return answerFhir(response, 200, resource);
  }
  if (request.method === 'DELETE' && held.delete(`${kind}/${id}`))
    return answerFhir(response, 200, outcome('gone'));
  if (kind === 'Appointment' && !id) return answerFhir(response, 200, appointments(url));
  if (kept.includes(kind) && !id) {
    const all = [...held.values()].filter(({ resourceType }) => resourceType === kind);
    const entry = all.map((resource) => ({ resource }));
    return answerFhir(response, 200, {
      resourceType: 'Bundle',
      type: 'searchset',
      total: all.length,
      entry
    });
  }
  const one = held.get(`${kind}/${id}`);
  return one
    ? answerFhir(response, 200, one)
    : answerFhir(response, 404, outcome(`there is no ${kind}/${id}`));
}

http
  .createServer((request, response) => {
    handle(request, response).catch(() => answerFhir(response, 400, outcome('this could not be read')));
  })
  .listen(Number(process.env.PORT ?? 4790), '127.0.0.1');
process.on('SIGTERM', () => process.exit(0));
