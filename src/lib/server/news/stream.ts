/** A server-sent event stream. `start` gets a function to send with, and returns what to do when the reader leaves. */
export function eventStream(start: (send: (event: string, data: unknown) => void) => () => void): Response {
  const text = new TextEncoder();
  let leave = () => {};
  const stream = new ReadableStream<Uint8Array>({
    start(controller) {
      const write = (chunk: string) => {
        try {
          controller.enqueue(text.encode(chunk));
        } catch {
          leave();
        }
      };
      write('retry: 1000\n\n');
      const stop = start((event, data) => write(`event: ${event}\ndata: ${JSON.stringify(data)}\n\n`));
      const beat = setInterval(() => write(': still here\n\n'), 10_000);
      leave = () => {
        clearInterval(beat);
        stop();
      };
    },
    cancel() {
      leave();
    }
  });
  return new Response(stream, {
    headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store', 'x-accel-buffering': 'no' }
  });
}
