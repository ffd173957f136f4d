import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import AxeBuilder from '@axe-core/webdriverjs';
import { By, type WebElement, until } from 'selenium-webdriver';
import chrome from 'selenium-webdriver/chrome.js';

const flags = [
  '--headless=new',
  '--no-sandbox',
  '--no-first-run',
  '--no-default-browser-check',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--disable-quic',
  '--disable-default-apps',
  '--disable-extensions',
  '--disable-breakpad',
  '--metrics-recording-only',
  '--no-pings',
  '--password-store=basic',
  '--force-color-profile=srgb',
  '--hide-scrollbars',
  '--use-fake-device-for-media-stream',
  '--use-fake-ui-for-media-stream',
  '--lang=en-US',
  '--window-size=1280,800',
  '--host-resolver-rules=MAP * ~NOTFOUND, EXCLUDE 127.0.0.1, EXCLUDE localhost'
];
/** Two files run at a time, on machines of two cores. */
const patienceMs = 45_000;
/** What leaves without its identity is read, picture by picture, before it may go. */
export const readingMs = 180_000;
const fingerStepMs = 30;
/** What the browser says of a part of the page that was drawn anew between finding and reading it. */
const drawnAnew = /stale element|does not belong to the document/i;

/** A headless Chromium of exactly 1280x800, and the gestures a person makes in it. */
export class Browser {
  private constructor(
    readonly driver: chrome.Driver,
    private readonly profile: string,
    readonly origin: string
  ) {}

  static async open(origin: string): Promise<Browser> {
    const profile = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-browser-'));
    const options = new chrome.Options();
    options.setChromeBinaryPath('/usr/bin/chromium');
    options.addArguments(...flags, `--user-data-dir=${profile}`);
    const driver = chrome.Driver.createSession(
      options,
      new chrome.ServiceBuilder('/usr/bin/chromedriver').build()
    );
    const browser = new Browser(driver, profile, origin);
    await browser.resize(1280, 800);
    return browser;
  }

  /** Makes the page exactly this large, whatever the window's frame takes. */
  async resize(width: number, height: number): Promise<void> {
    await this.driver.sendDevToolsCommand('Emulation.setDeviceMetricsOverride', {
      width,
      height,
      deviceScaleFactor: 1,
      mobile: false
    });
  }

  async close(): Promise<void> {
    await this.driver.quit().catch(() => {});
    fs.rmSync(this.profile, { recursive: true, force: true });
  }

  async go(where: string): Promise<void> {
    await this.driver.get(this.origin + where);
  }

  async signIn(name: string, password: string): Promise<void> {
    await this.go('/sign-in');
    await this.untilLive();
    await (await this.find('input[name=name]')).sendKeys(name);
    await (await this.find('input[name=password]')).sendKeys(password);
    await this.click('form button.main');
    await this.driver.wait(until.elementLocated(By.css('#day')), patienceMs);
    await this.untilLive();
  }

  /** Waits until the page's own code runs, so that presses are heard. */
  async untilLive(): Promise<void> {
    await this.until('the page is live', () =>
      this.run('return document.documentElement.dataset.live === "yes"')
    );
  }

  find(css: string): Promise<WebElement> {
    return this.driver.wait(until.elementLocated(By.css(css)), patienceMs, `nothing matches ${css}`);
  }

  all(css: string): Promise<WebElement[]> {
    return this.driver.findElements(By.css(css));
  }

  async click(css: string): Promise<void> {
    await this.until(`${css} can be pressed`, async () => {
      try {
        const element = await this.find(css);
        if (!(await element.isEnabled())) return false;
        await element.click();
        return true;
      } catch (error) {
        if (drawnAnew.test(String(error)) || /intercepted|not interactable/i.test(String(error)))
          return false;
        throw error;
      }
    });
  }

  /** Opens a list of choices and takes the one that says so. */
  async choose(testid: string, words: string): Promise<void> {
    await this.click(`[data-testid=${testid}]`);
    const option = By.xpath(`//*[@role='option'][contains(., '${words}')]`);
    await this.until(`${words} is offered`, async () => (await this.driver.findElements(option)).length > 0);
    await (await this.driver.findElement(option)).click();
  }

  async text(css: string): Promise<string> {
    return (await this.find(css)).getText();
  }

  /** Waits until an element says these words; if it never does, tells what it said instead. */
  async untilSays(css: string, words: string): Promise<void> {
    let said = '';
    try {
      await this.until(`${css} says ${words}`, async () => {
        said = await this.text(css);
        return said.includes(words);
      });
    } catch (error) {
      throw new Error(`${(error as Error).message}; it said: ${said}`, { cause: error });
    }
  }

  run<T>(script: string, ...args: unknown[]): Promise<T> {
    return this.driver.executeScript<T>(script, ...args);
  }

  async until(what: string, check: () => Promise<unknown>, ms = patienceMs): Promise<void> {
    const checked = async () => {
      try {
        return Boolean(await check());
      } catch (error) {
        if (drawnAnew.test(String(error))) return false;
        throw error;
      }
    };
    await this.driver.wait(checked, ms, `waited in vain: ${what}`);
  }

  untilCount(css: string, count: number, ms = patienceMs): Promise<void> {
    return this.until(`${count} of ${css}`, async () => (await this.all(css)).length === count, ms);
  }

  /** Waits until every small picture in view is there: they are made behind all else, and asked for ever more seldom. */
  async untilSmallPictures(): Promise<void> {
    await this.until(
      'every small picture has come',
      () =>
        this.run(
          `return [...document.querySelectorAll('[data-testid=small]')].every((small) => small.dataset.come === 'yes' || small.loading === 'lazy')`
        ),
      2 * patienceMs
    );
  }

  /** Waits until nothing that was made here is still on its way to the server. */
  async untilKept(): Promise<void> {
    await this.until('everything is kept', async () =>
      this.driver.executeAsyncScript(
        `const done = arguments[0];
         const open = indexedDB.open('yonder-tray');
         open.onerror = () => done(false);
         open.onsuccess = () => {
           const count = open.result.transaction('change').objectStore('change').count();
           count.onsuccess = () => { open.result.close(); done(count.result === 0); };
         };`
      )
    );
  }

  /** What the page breaks of axe's rules, and where: of all of them, or of those alone that are named. */
  async violations(rules?: string[]): Promise<string[]> {
    // A page of one frame needs no second page to gather what is found, which a busy machine opens too slowly.
    const axe = new AxeBuilder(this.driver).setLegacyMode();
    const { violations } = await (rules ? axe.withRules(rules) : axe).analyze();
    return violations.map(({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html).join(' | ')}`);
  }

  /** Signs out by the person's menu. */
  async signOut(): Promise<void> {
    await this.click('[data-testid=person]');
    await this.click('[data-testid=sign-out]');
    await this.driver.wait(until.elementLocated(By.css('input[name=password]')), patienceMs);
  }

  /** Lets the page reach nothing whose address holds one of these patterns; none opens all again. */
  async block(...patterns: string[]): Promise<void> {
    await this.driver.sendDevToolsCommand('Network.enable', {});
    await this.driver.sendDevToolsCommand('Network.setBlockedURLs', { urls: patterns });
  }

  /** Lets every answer come so late from now on; 0 as soon as it is there. */
  async answerAfter(latency: number): Promise<void> {
    await this.driver.sendDevToolsCommand('Network.enable', {});
    await this.driver.sendDevToolsCommand('Network.emulateNetworkConditions', {
      offline: false,
      latency,
      downloadThroughput: -1,
      uploadThroughput: -1
    });
  }

  /** Presses at one point of an element, moves by steps, lets go at another. Points count from its top left corner. */
  async drag(
    css: string,
    from: [number, number],
    to: [number, number],
    hold?: () => Promise<void>
  ): Promise<void> {
    const box = await (await this.find(css)).getRect();
    const at = ([x, y]: [number, number]) => ({ x: Math.round(box.x + x), y: Math.round(box.y + y) });
    const middle: [number, number] = [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2];
    const pointer = this.driver.actions();
    await pointer
      .move(at(from))
      .press()
      .move({ ...at(middle), duration: 60 })
      .move({ ...at(to), duration: 60 })
      .perform();
    await hold?.();
    await this.driver.actions().release().perform();
  }

  /** From now on there are fingers: the page is told so, and `tap` and `fingers` touch it. */
  async giveFingers(): Promise<void> {
    await this.driver.sendDevToolsCommand('Emulation.setTouchEmulationEnabled', {
      enabled: true,
      maxTouchPoints: 5
    });
  }

  /** Touches the middle of an element with one finger, as soon as it rests and nothing lies over it. */
  async tap(css: string): Promise<void> {
    let at: [number, number] | null = null;
    await this.until(`${css} can be touched`, async () => {
      const before = at;
      at = await this.run<[number, number] | null>(
        `const element = document.querySelector(arguments[0]);
         if (!element || element.disabled) return null;
         element.scrollIntoView({ block: 'nearest', inline: 'nearest' });
         const box = element.getBoundingClientRect();
         const at = [box.x + box.width / 2, box.y + box.height / 2];
         const top = document.elementFromPoint(...at);
         return top && (element.contains(top) || top.closest('label')?.contains(element)) ? at : null`,
        css
      );
      // What still moves would be missed.
      return at !== null && before?.join() === at.join();
    });
    await this.fingers([[at!]]);
  }

  /** Fingers put down, moved from point to point all at once, and lifted; a list of points for each, in the window. Amid it, after the first move, something may happen. */
  async fingers(ways: readonly (readonly [number, number])[][], amid?: () => Promise<void>): Promise<void> {
    const send = (type: string, step: number | null) =>
      this.driver.sendDevToolsCommand('Input.dispatchTouchEvent', {
        type,
        touchPoints: step === null ? [] : ways.map((way, id) => ({ x: way[step][0], y: way[step][1], id }))
      });
    const last = ways[0].length - 1;
    await send('touchStart', 0);
    for (let step = 1; step <= last; step++) {
      await new Promise((done) => setTimeout(done, fingerStepMs));
      await send('touchMove', step);
      if (step === 1) await amid?.();
    }
    // A finger that stops before it lifts flings nothing.
    if (last > 0) await new Promise((done) => setTimeout(done, 5 * fingerStepMs));
    await send('touchEnd', null);
  }

  /** The middle of an element, in the window. */
  async middleOf(css: string, which = 0): Promise<[number, number]> {
    const box = await (await this.all(css))[which].getRect();
    return [box.x + box.width / 2, box.y + box.height / 2];
  }

  async press(...keys: string[]): Promise<void> {
    await this.driver
      .actions()
      .sendKeys(...keys)
      .perform();
  }

  async picture(file: string): Promise<void> {
    fs.mkdirSync(path.dirname(file), { recursive: true });
    fs.writeFileSync(file, Buffer.from(await this.driver.takeScreenshot(), 'base64'));
  }
}
