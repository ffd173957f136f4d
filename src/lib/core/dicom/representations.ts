/** Representations whose explicit length takes four bytes, after two that are reserved (PS3.5 7.1.2). */
export const longForm: ReadonlySet<string> = new Set([
  'OB',
  'OD',
  'OF',
  'OL',
  'OV',
  'OW',
  'SQ',
  'SV',
  'UC',
  'UN',
  'UR',
  'UT',
  'UV'
]);

/** All others: their length takes two bytes, at once. */
export const shortForm: ReadonlySet<string> = new Set([
  ...['AE', 'AS', 'AT', 'CS', 'DA', 'DS', 'DT', 'FD', 'FL', 'IS', 'LO', 'LT'],
  ...['PN', 'SH', 'SL', 'SS', 'ST', 'TM', 'UI', 'UL', 'US']
]);
