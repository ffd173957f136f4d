import { randomUUID } from 'node:crypto';
import { Readable } from 'node:stream';
import { Dicer } from '@fastify/busboy';

/** The parts of a multipart/related body, each whole. Rejects when the body ends before its last boundary. */
export function readParts(contentType: string, body: Buffer): Promise<Buffer[]> {
  const boundary = /boundary="?([^";]+)"?/i.exec(contentType)?.[1];
  if (!boundary) return Promise.reject(new Error('no boundary'));
  return new Promise((resolve, reject) => {
    const parts: Buffer[] = [];
    const dicer = new Dicer({ boundary });
    dicer.on('part', (part) => {
      const chunks: Buffer[] = [];
      part.on('data', (chunk: Buffer) => chunks.push(chunk));
      part.on('end', () => parts.push(Buffer.concat(chunks)));
      part.on('error', reject);
    });
    dicer.on('finish', () => resolve(parts));
    dicer.on('error', reject);
    Readable.from(body).pipe(dicer);
  });
}

export function writeParts(files: Buffer[]): { contentType: string; body: Buffer } {
  const boundary = `archive-${randomUUID()}`;
  const body = Buffer.concat([
    ...files.flatMap((file) => [
      Buffer.from(`--${boundary}\r\nContent-Type: application/dicom\r\n\r\n`),
      file,
      Buffer.from('\r\n')
    ]),
    Buffer.from(`--${boundary}--\r\n`)
  ]);
  return { contentType: `multipart/related; type="application/dicom"; boundary=${boundary}`, body };
}
