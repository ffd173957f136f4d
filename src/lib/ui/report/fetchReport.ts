import type { PaperNames } from '$core/report/paperHead';
import { type Refused, noAnswer, refusal } from '../net/send';

/** A report as it was made, and what has to be heard before it is shared. */
export interface MadeReport {
  bytes: Uint8Array;
  names: PaperNames;
  named: string[];
  unwritable: string[];
}

/** Has the report made; what can't be made is said. @param signal another one is wanted in its place */
export async function fetchReport(
  url: string,
  signal: AbortSignal
): Promise<MadeReport | { refused: Refused }> {
  try {
    const answer = await fetch(url, { signal });
    if (!answer.ok) return { refused: refusal(answer.status, await answer.json().catch(() => ({}))) };
    const told = JSON.parse(decodeURIComponent(answer.headers.get('x-report-told')!)) as Omit<
      MadeReport,
      'bytes'
    >;
    return { ...told, bytes: new Uint8Array(await answer.arrayBuffer()) };
  } catch {
    return { refused: noAnswer() };
  }
}
