/** The hours a clinic is usually open; the day's line is longer when an appointment lies outside them. */
const usual = { first: 8, last: 18 };

export interface Hours {
  /** The first hour that is drawn, and the hour at which the drawing ends. */
  first: number;
  last: number;
}

/** The hours that a day's line has to hold, from the minutes of the day at which its appointments begin and end. */
export function hoursOf(appointments: readonly { begins: number; ends: number }[]): Hours {
  const first = Math.min(usual.first, ...appointments.map(({ begins }) => Math.floor(begins / 60)));
  const last = Math.max(usual.last, ...appointments.map(({ ends }) => Math.ceil(ends / 60)));
  return { first, last: Math.min(24, last) };
}
