import type http from 'node:http';

/** All that was sent. */
export async function bodyOf(request: http.IncomingMessage): Promise<Buffer> {
  const chunks: Buffer[] = [];
  for await (const chunk of request) chunks.push(chunk as Buffer);
  return Buffer.concat(chunks);
}

export function answer(
  response: http.ServerResponse,
  status: number,
  type: string,
  body: string | Buffer
): void {
  response.writeHead(status, { 'content-type': type });
  response.end(body);
}

/** A FHIR resource, or anything else as JSON. */
export const answerFhir = (response: http.ServerResponse, status: number, body: unknown): void =>
  answer(response, status, 'application/fhir+json', JSON.stringify(body));

export const outcome = (diagnostics: string, code = 'processing') => ({
  resourceType: 'OperationOutcome',
  issue: [{ severity: 'error', code, diagnostics }]
});
