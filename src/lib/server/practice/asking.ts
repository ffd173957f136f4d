import { type PracticeDay, dayOfBundle } from '../../core/fhir/day';
import { fhirBundle } from '../../core/fhir/resources';
import { cleanTexts } from '../../core/text';
import { dayRange } from '../../core/time/clinicTime';

const patienceMs = 8_000;
const mostPages = 20;
const mostBytes = 8 * 1024 * 1024;

/** The practice system can't be asked, in words. */
export class PracticeAway extends Error {}

async function reached(url: string, asked: RequestInit): Promise<Response> {
  let answer: Response;
  try {
    answer = await fetch(url, { ...asked, signal: AbortSignal.timeout(patienceMs) });
  } catch (error) {
    const late = (error as Error).name === 'TimeoutError';
    throw new PracticeAway(late ? 'It did not answer in time.' : 'Nothing listens at its address.');
  }
  if (!answer.ok) throw new PracticeAway(`It answered with the error ${answer.status}.`);
  return answer;
}

async function bundleAt(url: string): Promise<{ resources: unknown[]; next: string | null }> {
  const answer = await reached(url, { headers: { accept: 'application/fhir+json' } });
  const text = await answer.text().catch(() => {
    throw new PracticeAway('The connection to it broke off.');
  });
  if (text.length > mostBytes) throw new PracticeAway('It answered with more than any day holds.');
  try {
    const bundle = fhirBundle.parse(JSON.parse(text));
    return {
      resources: cleanTexts((bundle.entry ?? []).map(({ resource }) => resource)),
      next: bundle.link?.find(({ relation }) => relation === 'next')?.url ?? null
    };
  } catch {
    throw new PracticeAway('What it answered is no list of appointments.');
  }
}

/** Gives the practice system a resource under its own id: the same however often it is given. @throws PracticeAway in words */
export async function putResource(base: string, resource: Record<string, unknown>): Promise<void> {
  const url = `${base}/${String(resource.resourceType)}/${String(resource.id)}`;
  const answer = await reached(url, {
    method: 'PUT',
    headers: { 'content-type': 'application/fhir+json', accept: 'application/fhir+json' },
    body: JSON.stringify(resource)
  });
  await answer.body?.cancel();
}

/** A day's appointments with their patients, page by page. @throws PracticeAway in words */
export async function practiceDay(base: string, day: string, timeZone: string): Promise<PracticeDay> {
  const { start, end } = dayRange(day, timeZone);
  const query = new URLSearchParams([
    ['date', `ge${start.toISOString()}`],
    ['date', `lt${end.toISOString()}`],
    ['_include', 'Appointment:patient'],
    ['_count', '100']
  ]);
  const { origin } = new URL(base);
  const resources: unknown[] = [];
  let url: string | null = `${base}/Appointment?${query}`;
  for (let page = 0; url && page < mostPages; page++) {
    const found: { resources: unknown[]; next: string | null } = await bundleAt(url);
    resources.push(...found.resources);
    // Pages of the same system only.
    const next: string | null = found.next && new URL(found.next, url).href;
    url = next && new URL(next).origin === origin ? next : null;
  }
  return dayOfBundle(resources);
}
