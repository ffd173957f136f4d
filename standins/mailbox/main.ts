// A mailbox on loopback: takes what is sent and keeps it as files, with faults that can be switched on.
import fs from 'node:fs';
import http from 'node:http';
import path from 'node:path';
import { SMTPServer } from 'smtp-server';

const folder = process.env.MAILBOX_FOLDER ?? path.resolve('.data/mailbox');
fs.mkdirSync(folder, { recursive: true });

/** full: over its quota. hang up: takes all of it and hangs up without a word. refuse: not now. */
const faultKinds = ['none', 'full', 'hang up', 'refuse'] as const;
let fault: (typeof faultKinds)[number] = 'none';
let count = 0;

const refusal = (responseCode: number, words: string) => Object.assign(new Error(words), { responseCode });

const server = new SMTPServer({
  authOptional: true,
  disabledCommands: ['AUTH', 'STARTTLS'],
  disableReverseLookup: true,
  size: 30_000_000,
  logger: false,
  onData(stream, session, done) {
    const chunks: Buffer[] = [];
    stream.on('data', (chunk: Buffer) => chunks.push(chunk));
    stream.on('end', () => {
      if (fault === 'full') return done(refusal(452, 'The mailbox is over its quota.'));
      if (fault === 'refuse') return done(refusal(451, 'Not now.'));
      count += 1;
      const file = path.join(folder, `${String(Date.now())}-${count}.eml`);
      fs.writeFileSync(`${file}.part`, Buffer.concat(chunks));
      fs.renameSync(`${file}.part`, file);
      if (fault === 'hang up') {
        const { connections } = server as unknown as {
          connections: Set<{ id: string; _socket: import('node:net').Socket }>;
        };
        for (const each of connections) if (each.id === session.id) each._socket.destroy();
        return;
      }
      done();
    });
  }
});
server.on('error', () => {});
server.listen(Number(process.env.SMTP_PORT ?? 4791), '127.0.0.1', () => console.log('mailbox listens'));

const mails = () => fs.readdirSync(folder).filter((name) => name.endsWith('.eml')).length;
http
  .createServer((request, response) => {
    const url = new URL(request.url ?? '/', 'http://mailbox');
    if (url.pathname === '/fault' && request.method === 'PUT') {
      const wanted = url.searchParams.get('kind') as typeof fault;
      if (faultKinds.includes(wanted)) fault = wanted;
    }
    response.writeHead(200, { 'content-type': 'application/json' });
    response.end(JSON.stringify({ fault, mails: mails() }));
  })
  .listen(Number(process.env.PORT ?? 4792), '127.0.0.1');
process.on('SIGTERM', () => process.exit(0));
