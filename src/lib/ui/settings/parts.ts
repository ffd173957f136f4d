/** The parts of the settings, in the order they stand in, with the words that each is looked for by. */
export interface SettingsPart {
  key: string;
  words: string;
  group: string;
  /** What one finds there, as people would ask for it. */
  holds: readonly string[];
  /** Whether only those see it who change settings. */
  changers?: boolean;
  /** A page of its own. */
  href?: string;
}

export const settingsParts: readonly SettingsPart[] = [
  {
    key: 'clinic',
    words: 'Teeth, dates and bin',
    group: 'The clinic',
    holds: [
      'notation',
      'FDI',
      'Universal',
      'Palmer',
      'time zone',
      'clock',
      'language',
      'dates',
      'numbers',
      'units',
      'decimal comma',
      'bin',
      'retention',
      'deleted pictures'
    ]
  },
  {
    key: 'papers',
    words: 'Head of papers',
    group: 'The clinic',
    holds: ['letterhead', 'logo', 'address', 'report', 'print']
  },
  {
    key: 'people',
    words: 'People',
    group: 'The clinic',
    holds: ['roles', 'users', 'invite', 'password', 'sessions', 'disable', 'staff']
  },
  {
    key: 'rooms',
    words: 'Rooms and pedals',
    group: 'At the chair',
    holds: ['pedal', 'usual pattern', 'opens armed', 'chair', 'rename', 'new room', 'close']
  },
  {
    key: 'devices',
    words: 'Devices',
    group: 'At the chair',
    holds: ['sensor', 'panel', 'enrol', 'rename', 'retire', 'replace', 'looks', 'code']
  },
  {
    key: 'sounds',
    words: 'Sounds',
    group: 'At the chair',
    holds: ['cues', 'tones', 'spoken words', 'mute', 'loud']
  },
  {
    key: 'sizes',
    words: 'Things of known size',
    group: 'At the chair',
    holds: ['markers', 'ball', 'disc', 'ruler', 'scale', 'calibration', 'plumb line']
  },
  {
    key: 'looks',
    words: 'Looks',
    group: 'At the chair',
    holds: ['presets', 'window', 'level', 'sharpen', 'invert', 'opens with']
  },
  {
    key: 'guides',
    words: 'Guides of our own',
    group: 'At the chair',
    holds: ['measuring', 'protocol', 'landmarks', 'normal range']
  },
  {
    key: 'categories',
    words: 'Categories',
    group: 'At the chair',
    holds: ['filed', 'rule', 'before treatment', 'albums']
  },
  {
    key: 'patterns',
    words: 'Patterns',
    group: 'At the chair',
    holds: ['tray', 'slots', 'route', 'series'],
    href: '/patterns'
  },
  {
    key: 'arrivals',
    words: 'How pictures arrive',
    group: 'Comes and goes',
    holds: ['senders', 'mail', 'DIMSE', 'DICOMweb', 'watched folders', 'disc']
  },
  {
    key: 'phones',
    words: 'Paired phones',
    group: 'Comes and goes',
    holds: ['pairing', 'camera', 'end a pairing']
  },
  {
    key: 'practice',
    words: 'Practice system',
    group: 'Comes and goes',
    holds: ['appointments', 'FHIR', 'day', 'front desk'],
    changers: true
  },
  {
    key: 'destinations',
    words: 'Destinations',
    group: 'Comes and goes',
    holds: ['archive', 'shared folder', 'mail', 'claims', 'film', 'send'],
    changers: true
  },
  {
    key: 'rules',
    words: 'De-identification',
    group: 'Comes and goes',
    holds: ['rules', 'profile', 'pseudonym', 'initials', 'identity']
  },
  {
    key: 'letters',
    words: 'Letters and colleagues',
    group: 'Comes and goes',
    holds: ['templates', 'referrers', 'specialist'],
    href: '/letters'
  },
  {
    key: 'changes',
    words: 'What was changed',
    group: 'Looked after',
    holds: ['take back', 'undo', 'history', 'who changed'],
    changers: true
  },
  {
    key: 'audit',
    words: 'Audit',
    group: 'Looked after',
    holds: ['who saw', 'record'],
    changers: true,
    href: '/audit'
  }
];

export const hrefOf = ({ key, href }: SettingsPart): string => href ?? `/settings/${key}`;

/** Those that somebody's words find, and by which word of theirs where it is not their name. */
export function foundParts(
  parts: readonly SettingsPart[],
  words: string
): { part: SettingsPart; by: string }[] {
  const asked = words.trim().toLowerCase();
  const found = parts.flatMap((part) => {
    if (asked === '' || part.words.toLowerCase().includes(asked)) return [{ part, by: '' }];
    const by = part.holds.find((each) => each.toLowerCase().includes(asked));
    return by ? [{ part, by }] : [];
  });
  // What is called so comes before what only holds it.
  return [...found.filter(({ by }) => by === ''), ...found.filter(({ by }) => by !== '')];
}
