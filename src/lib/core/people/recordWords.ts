/** What people ask of a patient's record: who saw, changed, sent or removed what. */
export const recordKinds = ['saw', 'changed', 'sent', 'removed', 'other'] as const;
export type RecordKind = (typeof recordKinds)[number];

/** One line of the audit about a patient, as a page tells it. */
export interface RecordLine {
  seq: number;
  at: string;
  who: string;
  kind: RecordKind;
  /** What was done, as it stands after a name: "looked at the chart". */
  words: string;
  /** What it was done to, or with what; empty where the words say all. */
  more: string;
  visitId: string | null;
}

/** Every act that can be about a patient: its kind, and how it reads after a name. */
const acts: Readonly<Record<string, readonly [RecordKind, string]>> = {
  'chart viewed': ['saw', 'looked at the chart'],
  'visit viewed': ['saw', 'looked at a visit'],
  'picture viewed': ['saw', 'looked at a picture'],
  'paper viewed': ['saw', 'read a paper'],
  searched: ['saw', 'searched'],
  'attribute said': ['changed', 'said an attribute of a picture'],
  'leaving shown': ['saw', 'looked at what would leave'],
  'pseudonym looked up': ['saw', 'looked up who a pseudonym stands for'],
  'veils laid': ['changed', 'masked what must not leave'],
  'looked for names': ['saw', 'had pictures looked through for names'],
  'opened by link': ['saw', 'opened the chart by a link'],
  'visit opened': ['changed', 'opened a visit'],
  'visit closed': ['changed', 'closed a visit'],
  'visit opened again': ['changed', 'opened a visit again'],
  'exposure stored': ['changed', 'took a picture'],
  'file brought in': ['changed', 'brought a file in'],
  'paper brought in': ['changed', 'brought a paper in'],
  'paper changed': ['changed', 'changed a paper'],
  'arrival given': ['changed', 'gave an arrival to this chart'],
  'tray changed': ['changed', 'changed the tray'],
  'picture changed': ['changed', 'changed a picture'],
  'picture moved': ['removed', 'moved a picture'],
  'picture deleted': ['removed', 'deleted a picture'],
  'picture brought back': ['changed', 'brought a picture back from the bin'],
  'picture taken back to Arrivals': ['removed', 'took a picture back to Arrivals'],
  'picture removed': ['removed', 'removed a picture for good, its time in the bin being over'],
  'filed under a category': ['changed', 'filed pictures under a category'],
  'letter begun': ['changed', 'began a letter'],
  'letter changed': ['changed', 'changed a letter'],
  'letter dropped': ['removed', 'put a letter away'],
  'story written': ['changed', 'wrote in the story'],
  'charts joined': ['changed', 'joined two charts'],
  'charts parted': ['changed', 'parted two charts'],
  'advice answered': ['changed', 'answered the computer’s advice'],
  'patient entered': ['changed', 'entered the patient'],
  'linked to teeth': ['changed', 'linked pictures to teeth'],
  'linked to places': ['changed', 'linked pictures to places'],
  'parcel handled': ['sent', 'held, withdrew or let a parcel go'],
  'parcel fetched': ['sent', 'fetched a parcel as a file'],
  'case made': ['sent', 'made a teaching case'],
  'case changed': ['sent', 'changed a teaching case'],
  'taken out': ['sent', 'took pictures or results out'],
  'sending asked': ['sent', 'asked to send'],
  delivered: ['sent', 'delivered'],
  'not kept': ['sent', 'heard that an archive did not keep a picture'],
  refused: ['other', 'was refused']
};

export const isToldOfPatients = (act: string): boolean => act in acts;

/** An act in words; one that is not known is told as it stands. */
export const recordWords = (act: string): readonly [RecordKind, string] => acts[act] ?? ['other', act];

const uuid = /^[0-9a-f]{8}-[0-9a-f]{4}-/;
/** Details of an act that say something to a person: no numbers that only computers know. */
export function detailWords(details: Readonly<Record<string, unknown>>): string {
  return Object.entries(details)
    .flatMap(([name, value]) => {
      // That something was changed stands in the act itself.
      if (value === null || value === '' || value === false || value === 'changed') return [];
      if (typeof value === 'string' && uuid.test(value)) return [];
      if (Array.isArray(value)) {
        const texts = value.filter((each): each is string => typeof each === 'string' && !uuid.test(each));
        return texts.length > 0 ? [texts.map(spoken).join(', ')] : [];
      }
      if (typeof value === 'object') return [];
      return [value === true ? spoken(name) : `${spoken(name)} ${spoken(String(value))}`];
    })
    .join('; ');
}
const spoken = (text: string): string => text.replaceAll('-', ' ');
