import type { Browser } from './browser';

/** What browser tests do at the chair, in one browser. */
export const atTheChair = (browser: () => Browser) => ({
  lampIs: (lamp: string): Promise<void> =>
    browser().until(
      `the lamp says ${lamp}`,
      async () => (await browser().all(`[data-lamp=${lamp}]`)).length > 0
    ),
  /** Opens an appointment of today by its patient's number: the one press with which a visit begins. */
  begin: async (record: string): Promise<void> => {
    await browser().go('/');
    await browser().untilLive();
    await browser().click(`[data-record=${record}]`);
    await browser().find('[data-testid=pattern]');
  }
});
