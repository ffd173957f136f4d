import { Chart } from 'chart.js';

/** A colour of the room that the page is in. */
export const colourOf = (name: string): string =>
  getComputedStyle(document.documentElement).getPropertyValue(name).trim();

/** Letters of charts are those of the page. */
export function chartType(): void {
  Chart.defaults.font.family = getComputedStyle(document.body).fontFamily;
  Chart.defaults.font.size = 14;
}
