import type { EventSourceMessage } from 'eventsource-parser';
import { EventSourceParserStream } from 'eventsource-parser/stream';

/** What a device shows; registering anew gives it another. */
export interface ShownToken {
  value: string;
  register(): Promise<void>;
}

/** Follows the server's instruction stream, over and over, for as long as the process lives. */
export async function followInstructions(
  server: string,
  token: ShownToken,
  heard: (event: string, data: unknown) => void
): Promise<never> {
  for (;;) {
    try {
      const answer = await fetch(`${server}/device/v1/instructions`, {
        headers: { authorization: `Bearer ${token.value}` }
      });
      if (answer.status === 401) await token.register();
      else if (answer.ok && answer.body) await readEvents(answer.body, heard);
    } catch {
      // the server is away; look again
    }
    await new Promise((done) => setTimeout(done, 500));
  }
}

async function readEvents(
  body: ReadableStream<Uint8Array>,
  heard: (event: string, data: unknown) => void
): Promise<void> {
  const events = body
    .pipeThrough(new TextDecoderStream() as unknown as ReadableWritablePair<string, Uint8Array>)
    .pipeThrough(new EventSourceParserStream());
  for await (const { event, data } of events as unknown as AsyncIterable<EventSourceMessage>)
    if (event) heard(event, JSON.parse(data));
}
