import net from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { freePort } from '../../../../scripts/cluster.mjs';
import { queues, startQueue, stopQueue } from '../jobs/boss';
import { beforeClinic, closeDatabase } from './connection';

/** A message of PostgreSQL's protocol, version 3. */
function message(kind: string, ...parts: Buffer[]): Buffer {
  const body = Buffer.concat(parts);
  const head = Buffer.alloc(5);
  head.write(kind, 'latin1');
  head.writeUInt32BE(body.length + 4, 1);
  return Buffer.concat([head, body]);
}
const letIn = message('R', Buffer.alloc(4));
const ready = message('Z', Buffer.from('I'));
const ending = message('E', Buffer.from('SFATAL\0C57P01\0Mterminating connection\0\0'));

/** A database that lets everybody in and ends each connection with the very same bytes. */
const stopping = net.createServer((socket) => {
  socket.once('data', () => socket.end(Buffer.concat([letIn, ready, ending])));
  socket.on('error', () => {});
});

useClinic();

describe('a database that is being stopped', () => {
  const faults: unknown[] = [];
  const fault = (error: unknown) => void faults.push(error);
  beforeAll(async () => {
    process.on('uncaughtException', fault);
    await new Promise<void>((done) => stopping.listen(0, '127.0.0.1', done));
  });
  afterAll(() => {
    process.off('uncaughtException', fault);
    stopping.close();
  });

  it('ends the connections that it just let in, not the program, and is asked again once it is there', async () => {
    const url = process.env.DATABASE_URL;
    await closeDatabase();
    process.env.DATABASE_URL = `postgres://yonder_app@127.0.0.1:${(stopping.address() as net.AddressInfo).port}/yonder`;
    try {
      await expect(beforeClinic('select 1 as one')).rejects.toThrow();
      await new Promise((done) => setTimeout(done, 50));
    } finally {
      await closeDatabase();
      process.env.DATABASE_URL = url;
    }
    expect(faults).toEqual([]);
    expect(await beforeClinic('select 1 as one')).toEqual([{ one: 1 }]);
  });

  it('is waited for by a program that starts before it is back', async () => {
    const there = new URL(process.env.QUEUE_DATABASE_URL!);
    const back = net.createServer((socket) => {
      const through = net.connect(Number(there.port), there.hostname);
      socket.pipe(through).pipe(socket);
      for (const end of [socket, through]) end.on('error', () => socket.destroy());
    });
    const port = await freePort();
    const url = process.env.QUEUE_DATABASE_URL;
    process.env.QUEUE_DATABASE_URL = String(Object.assign(new URL(there), { host: `127.0.0.1:${port}` }));
    try {
      await stopQueue();
      const starting = startQueue();
      setTimeout(() => back.listen(port, '127.0.0.1'), 900);
      expect(await (await starting).getQueue(queues.pack)).toMatchObject({ name: queues.pack });
    } finally {
      await stopQueue();
      process.env.QUEUE_DATABASE_URL = url;
      back.close();
    }
  });
});
