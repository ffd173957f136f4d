import { randomUUID } from 'node:crypto';
import { Readable } from 'node:stream';
import { Dicer } from '@fastify/busboy';

/** A part of a multipart/related body, whole. */
export interface Part {
  /** Header fields by their names in small letters. */
  headers: Record<string, string>;
  bytes: Buffer;
}

/** The parts of a multipart/related body. Rejects when the body ends before its last boundary. */
export function readParts(contentType: string, body: Buffer): Promise<Part[]> {
  const boundary = /boundary="?([^";]+)"?/i.exec(contentType)?.[1];
  if (!boundary) return Promise.reject(new Error('no boundary'));
  return new Promise((resolve, reject) => {
    const parts: Part[] = [];
    const dicer = new Dicer({ boundary });
    dicer.on('part', (part) => {
      const chunks: Buffer[] = [];
      let headers: Part['headers'] = {};
      part.on('header', (fields) => {
        headers = Object.fromEntries(
          Object.entries(fields as Record<string, string[]>).map(([name, values]) => [name, values[0]])
        );
      });
      part.on('data', (chunk: Buffer) => chunks.push(chunk));
      part.on('end', () => parts.push({ headers, bytes: Buffer.concat(chunks) }));
      part.on('error', reject);
    });
    dicer.on('finish', () => resolve(parts));
    dicer.on('error', reject);
    Readable.from(body).pipe(dicer);
  });
}

export function writeParts(
  files: readonly Buffer[],
  type = 'application/dicom'
): { contentType: string; body: Buffer } {
  const boundary = `archive-${randomUUID()}`;
  const body = Buffer.concat([
    ...files.flatMap((file) => [
      Buffer.from(`--${boundary}\r\nContent-Type: ${type}\r\n\r\n`),
      file,
      Buffer.from('\r\n')
    ]),
    Buffer.from(`--${boundary}--\r\n`)
  ]);
  return { contentType: `multipart/related; type="${type}"; boundary=${boundary}`, body };
}
