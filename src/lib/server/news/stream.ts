/**
 * A server-sent event stream. `start` gets functions to send with and to end it, and returns what to do when the reader
 * leaves.
 */
export function eventStream(
  start: (send: (event: string, data: unknown) => void, end: () => void) => () => void
): Response {
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
      const send = (event: string, data: unknown) =>
        write(`event: ${event}\ndata: ${JSON.stringify(data)}\n\n`);
      const stop = start(send, () => {
        leave();
        controller.close();
      });
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
