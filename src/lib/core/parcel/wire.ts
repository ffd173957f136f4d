/** One exchange on the wire, as it can be looked at afterwards. Never holds what was sent itself, nor a secret. */
export interface WireLine {
  /** "POST http://…/studies", "C-STORE to ARCHIVE at …". */
  request: string;
  headers: Record<string, string>;
  parts: { type: string; bytes: number }[];
  /** Status and words of the answer; what happened instead where none came. */
  answer: string;
  answerHeaders: Record<string, string>;
  /** The beginning of what was answered. */
  body: string;
}

/** So much of an answer is kept. */
export const mostBody = 2_000;

const secret = /^(authorization|proxy-authorization|cookie|set-cookie|x-api-key)$/i;

/** Headers as they may be shown: what proves who we are is left out. */
export const shownHeaders = (headers: Iterable<readonly [string, string]>): Record<string, string> =>
  Object.fromEntries([...headers].map(([name, value]) => [name, secret.test(name) ? '(not shown)' : value]));

/** An exchange as text that can be copied and sent to an archive's keeper. */
export function wireText({ request, headers, parts, answer, answerHeaders, body }: WireLine): string {
  const lines = (all: Record<string, string>) =>
    Object.entries(all).map(([name, value]) => `${name}: ${value}`);
  return [
    request,
    ...lines(headers),
    ...parts.map(({ type, bytes }, i) => `  part ${i + 1}: ${type}, ${bytes.toLocaleString('en')} bytes`),
    '',
    answer,
    ...lines(answerHeaders),
    ...(body ? ['', body] : [])
  ].join('\n');
}
