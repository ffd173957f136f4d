import { mostBody, shownHeaders } from '../../../core/parcel/wire';
import { NotDelivered, type Who, type Wire, brokeOff, didNotAnswer, isAway, patienceMs } from './carrier';

/** Somebody that is reached by HTTP. */
export interface WebPeer {
  url: string;
  token: string;
  wire: Wire;
  who: Who;
}

export interface Asked {
  method?: 'GET' | 'POST';
  headers: Record<string, string>;
  body?: Buffer;
  parts?: { type: string; bytes: number }[];
}

/** One exchange, written down; an answer of any status is given back. @throws NotDelivered where none came */
export async function askPeer(
  { url, token, wire, who }: WebPeer,
  path: string,
  asked: Asked
): Promise<{ response: Response; bytes: Buffer }> {
  const { method = 'GET', headers, body, parts = [] } = asked;
  const all = { ...headers, ...(token ? { authorization: `Bearer ${token}` } : {}) };
  const line = {
    request: `${method} ${url}${path}`,
    headers: shownHeaders(Object.entries(all)),
    parts,
    answer: '',
    answerHeaders: {},
    body: ''
  };
  try {
    const response = await fetch(`${url}${path}`, {
      method,
      headers: all,
      body: body as BodyInit | undefined,
      redirect: 'manual',
      signal: AbortSignal.timeout(patienceMs())
    });
    const bytes = Buffer.from(await response.arrayBuffer());
    const type = response.headers.get('content-type') ?? '';
    wire({
      ...line,
      answer: `${response.status} ${response.statusText}`.trim(),
      answerHeaders: shownHeaders(response.headers),
      body: /json|xml|text/.test(type)
        ? bytes.toString('utf8').slice(0, mostBody)
        : bytes.length > 0
          ? `(${bytes.length.toLocaleString('en')} bytes)`
          : ''
    });
    return { response, bytes };
  } catch (error) {
    const problem = problemOf(who, error as Error);
    wire({ ...line, answer: problem.reason });
    throw problem;
  }
}

function problemOf(who: Who, error: Error): NotDelivered {
  if (error.name === 'TimeoutError') return didNotAnswer(who);
  const code = (error as { cause?: { code?: string } }).cause?.code ?? '';
  return code === 'ECONNREFUSED' || code === 'ENOTFOUND' ? isAway(who) : brokeOff(who);
}

/** What can't be helped by trying again: nobody is let in, or it is somewhere else. */
export function refusalOf(who: Who, { status }: Response): NotDelivered | null {
  if (status === 401 || status === 403)
    return new NotDelivered(
      `The ${who} does not let us in.`,
      true,
      'Ask its keeper to allow this clinic, or have the token in Settings put right; then try again.'
    );
  if (status >= 300 && status < 400)
    return new NotDelivered(
      `The ${who} points elsewhere (${status}), which is not followed.`,
      true,
      'Have its address in Settings put right, then try again.'
    );
  return null;
}
