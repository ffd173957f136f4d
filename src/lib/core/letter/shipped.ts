import { insideMm } from '../print/paper';
import type { LetterBlock, LetterBody, LetterInline } from './letterBody';
import type { PicturePlace, PlaceWant } from './letterPlace';

/** A template that ships: a clinic begins with it, and makes its own of it. */
export interface ShippedTemplate {
  key: string;
  name: string;
  body: LetterBody;
}

/** "Words with {a field} in them" as the parts of a line. */
function line(text: string): LetterInline[] {
  return text.split(/(\{[^}]+\})/).flatMap((part): LetterInline[] => {
    if (part === '') return [];
    const name = /^\{(.+)\}$/.exec(part)?.[1];
    return [name ? { type: 'field', attrs: { name } } : { type: 'text', text: part }];
  });
}
const says = (text: string): LetterBlock => ({ type: 'paragraph', content: line(text) });
const head = (text: string): LetterBlock => ({ type: 'heading', attrs: { level: 2 }, content: line(text) });

const gapMm = 5;
/** Places side by side over the whole width. Ids are told apart by the template and their place in it. */
function row(template: number, wants: readonly PlaceWant[], heightMm: number): LetterBlock {
  const widthMm = (insideMm - gapMm * (wants.length - 1)) / wants.length;
  return {
    type: 'pictures',
    attrs: {
      places: wants.map((want, i): PicturePlace => ({
        id: `0190fee0-0000-7000-8000-${String(template * 100 + i).padStart(12, '0')}`,
        xMm: i * (widthMm + gapMm),
        yMm: 0,
        widthMm,
        heightMm,
        want,
        caption: '',
        drawn: true,
        atMostMonths: 12
      }))
    }
  };
}
const newest = (pictureKind: 'radiograph' | 'photograph' | null): PlaceWant => ({
  kind: 'newest',
  category: '',
  place: '',
  pictureKind
});

const toTheRight = (text: string): LetterBlock => ({
  type: 'paragraph',
  attrs: { textAlign: 'right' },
  content: line(text)
});
/** How a letter to a colleague begins. */
const toColleague: LetterBlock[] = [
  says('{to}'),
  says('{address}'),
  toTheRight('{today}'),
  head('{patient}, {age}'),
  says('{greeting}')
];

export const shippedTemplates: readonly ShippedTemplate[] = [
  {
    key: 'referral',
    name: 'Referral to a specialist',
    body: {
      type: 'doc',
      content: [
        ...toColleague,
        says('I ask you to see this patient. They came on {visit day}: {reasons}.'),
        says('{history}'),
        says('What we would like to know: {question}'),
        says('Taken here: {procedures}.'),
        row(1, [newest('radiograph'), newest('photograph')], 70),
        { type: 'readings' },
        { type: 'signature' }
      ]
    }
  },
  {
    key: 'findings',
    name: 'Findings to whoever referred',
    body: {
      type: 'doc',
      content: [
        ...toColleague,
        says('This is what we found on {visit day}. You had asked: {question}'),
        says('{findings}'),
        row(2, [newest(null)], 90),
        { type: 'readings' },
        says('What we plan: {plan}'),
        { type: 'signature' }
      ]
    }
  },
  {
    key: 'patient',
    name: 'To the patient or owner',
    body: {
      type: 'doc',
      content: [
        toTheRight('{clinic}, {today}'),
        head('The visit of {visit day}'),
        says('{patient} was here for: {reasons}.'),
        row(3, [newest(null)], 90),
        says('What comes next: {plan}'),
        { type: 'signature' }
      ]
    }
  }
];
