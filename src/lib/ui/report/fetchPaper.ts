import type { PaperNames } from '$core/report/paperHead';
import { type Refused, noAnswer, refusal } from '../net/send';

/** A paper as it was made, and what has to be heard before it is shared. */
export interface MadePaper {
  bytes: Uint8Array;
  names: PaperNames;
  /** What points to the patient in a paper by initials. */
  named: string[];
  /** Letters that no font has. */
  unwritable: string[];
}

/**
 * Has a paper made; what can't be made is said.
 * @param wish what it is made of; a paper whose choices are kept needs none
 * @param signal another one is wanted in its place
 */
export async function fetchPaper(
  url: string,
  signal: AbortSignal,
  wish?: unknown
): Promise<MadePaper | { refused: Refused }> {
  const body = wish === undefined ? undefined : JSON.stringify(wish);
  try {
    const answer = await fetch(
      url,
      body ? { method: 'POST', headers: { 'content-type': 'application/json' }, body, signal } : { signal }
    );
    if (!answer.ok) return { refused: refusal(answer.status, await answer.json().catch(() => ({}))) };
    const told = JSON.parse(decodeURIComponent(answer.headers.get('x-paper-told')!)) as Omit<
      MadePaper,
      'bytes'
    >;
    return { ...told, bytes: new Uint8Array(await answer.arrayBuffer()) };
  } catch {
    return { refused: noAnswer() };
  }
}
