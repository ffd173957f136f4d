/** Where what is open above a page lies: one landmark of the page, which its root layout holds. */
export const popupsId = 'popups';
export const popups = `#${popupsId}`;
