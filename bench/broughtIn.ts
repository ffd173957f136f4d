import type { Browser } from '../e2e/harness/browser';
import type { RunningClinic } from '../e2e/harness/running';

/** Opens a visit of today in the browser, and brings pictures into it. @returns the visit's id */
export async function broughtIn(
  clinic: RunningClinic,
  browser: Browser,
  pictures: AsyncIterable<Buffer> | Iterable<Buffer>
): Promise<string> {
  await browser.go('/');
  await browser.click('[data-record=QS-1031]');
  await browser.find('[data-testid=file-picker]');
  const visitId = /visits\/([0-9a-f-]+)/.exec(await browser.driver.getCurrentUrl())![1];
  const { value } = await browser.driver.manage().getCookie('session');
  let number = 0;
  for await (const picture of pictures) {
    const answer = await fetch(`${clinic.origin}/api/visits/${visitId}/files?name=${++number}.png`, {
      method: 'POST',
      headers: {
        cookie: `session=${value}`,
        origin: clinic.origin,
        'content-type': 'image/png',
        'idempotency-key': crypto.randomUUID()
      },
      body: new Uint8Array(picture)
    });
    if (!answer.ok) throw new Error(await answer.text());
  }
  return visitId;
}
