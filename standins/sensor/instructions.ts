/** Follows the server's instruction stream, over and over, for as long as the process lives. */
export async function followInstructions(
  server: string,
  token: () => string,
  heard: (event: string, data: unknown) => void,
  refused: () => Promise<void>
): Promise<never> {
  for (;;) {
    try {
      const answer = await fetch(`${server}/device/v1/instructions`, {
        headers: { authorization: `Bearer ${token()}` }
      });
      if (answer.status === 401) await refused();
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
  const text = new TextDecoder();
  let rest = '';
  for await (const chunk of body as unknown as AsyncIterable<Uint8Array>) {
    rest += text.decode(chunk, { stream: true });
    const blocks = rest.split('\n\n');
    rest = blocks.pop()!;
    for (const block of blocks) {
      const event = /^event: (.*)$/m.exec(block)?.[1];
      const data = /^data: (.*)$/m.exec(block)?.[1];
      if (event && data) heard(event, JSON.parse(data));
    }
  }
}
