import { describe, expect, it } from 'vitest';
import type { StoryPicture } from '../visit/story';
import { type PictureItem, noLayers } from '../picture/pictureLayers';
import type { PictureView } from '../picture/pictureView';
import { seededRandom } from '../random';
import { emptyTray } from '../tray/tray';
import type { VisitView } from '../visit/visitView';
import {
  type ReportFacts,
  freeWords,
  inOrder,
  plainChoice,
  reportChoice,
  reportPaper,
  reportSections
} from './visitReport';

const look = { steps: [{ kind: 'window' as const, center: 50, width: 100, by: 'linear' as const }] };
const picture = (pictureId: string, more: Partial<PictureView['layers']> = {}) =>
  ({
    pictureId,
    takenAt: '2026-11-29T10:00:00Z',
    fileName: `${pictureId}.png`,
    width: 100,
    height: 80,
    fileScale: null,
    firstLook: look,
    firstOrientation: { quarterTurns: 0, mirrored: false },
    links: [],
    placed: true,
    people: {},
    layers: { ...noLayers, ...more }
  }) as unknown as PictureView;
const kept: PictureItem = {
  id: 'k1',
  kind: 'kept',
  by: 'm',
  body: {
    name: 'The break',
    kind: 'finding',
    remark: 'seen from the side',
    keptAt: '2026-11-29T10:05:00Z',
    frame: 0,
    window: { left: 10, top: 10, width: 20, height: 20 },
    orientation: { quarterTurns: 1, mirrored: false },
    look: { steps: [{ kind: 'invert' }] },
    drawings: [{ shapes: [], wordsAt: { x: 1, y: 1 }, words: '4 mm' }],
    drawn: true,
    place: 0
  }
};
const asTold = (id: string, pictureId: string, as: StoryPicture['as'] = null): StoryPicture => ({
  id,
  pictureId,
  as,
  words: 'as it was'
});

function facts(more: { told?: StoryPicture[]; pictures?: PictureView[] } = {}): ReportFacts {
  const pictures = more.pictures ?? [
    picture('a', { about: { name: 'From the front', remark: 'for Hilda' } }),
    picture('b', { grade: { grade: 'limited', reasons: ['motion'] }, items: [kept] }),
    picture('c')
  ];
  const visit = {
    reason: 'Fell on the hand',
    story: {
      texts: { colleague: { body: 'Please look at the radius.' } },
      plannedOn: { body: '2026-12-24' },
      pictures: more.told ?? [],
      papers: [
        { paperId: 'p1', title: 'Letter of Isolde', pages: 2, putAwayBy: null },
        { paperId: 'p2', title: 'Put away', pages: 1, putAwayBy: 'm' }
      ]
    },
    trays: [
      {
        trayId: 't',
        number: 1,
        tray: {
          ...emptyTray,
          laid: { name: 'Right wrist', pattern: null, route: null },
          wells: {
            one: { takes: ['c', 'a'], keeper: 'a', confirmed: null },
            two: { takes: [], keeper: null, confirmed: null }
          },
          route: ['one', 'two'],
          bench: ['b']
        }
      }
    ],
    pictures
  } as unknown as VisitView;
  return {
    visit,
    results: {
      guides: [
        {
          set: 's',
          name: 'Distal radius',
          lines: ['inclination', 'tilt'].map((key) => ({ key, name: key })),
          pictures: []
        } as unknown as ReportFacts['results']['guides'][number]
      ],
      readings: [{ id: 'r', name: 'Gap, Wrist', value: '4.0 ± 0.2 mm', confirmed: 'not confirmed yet' }]
    },
    notation: 'fdi',
    language: 'en-GB',
    dateWords: (date) => `day ${date}`,
    momentWords: (at) => `moment ${at}`
  };
}
const keys = (of: ReturnType<typeof reportPaper>) => of.map(({ key }) => key);
const entriesOf = (of: ReturnType<typeof reportPaper>, key: string) => {
  const section = of.find((each) => each.key === key);
  return (section?.entries ?? []).map((entry) => entry.key);
};

describe('the report of a visit', () => {
  it('holds everything of the visit that is not empty: keepers and the bench, no take that was not kept', () => {
    const all = reportPaper(facts(), plainChoice);
    expect(keys(all)).toEqual(['story', 'tray:t', 'kept', 'guide:s', 'readings', 'papers']);
    expect(entriesOf(all, 'tray:t')).toEqual(['a', 'b']);
    expect(entriesOf(all, 'papers')).toEqual(['p1']);
    expect(all[0]).toMatchObject({
      entries: [
        { name: 'Why', text: 'Fell on the hand' },
        { name: 'Planned for day 2026-12-24', text: '' },
        { name: 'For a colleague', text: 'Please look at the radius.' }
      ]
    });
    expect(all[1]).toMatchObject({
      title: 'Right wrist',
      entries: [
        { name: 'From the front', lines: ['moment 2026-11-29T10:00:00Z', 'for Hilda'] },
        { name: 'b.png', lines: ['moment 2026-11-29T10:00:00Z', 'limited: motion'] }
      ]
    });
  });

  it('is nothing where the visit has nothing', () => {
    const empty = facts({ pictures: [] });
    empty.visit = { ...empty.visit, reason: '', trays: [] };
    empty.visit.story = { ...empty.visit.story, texts: {}, plannedOn: null, papers: [] };
    empty.results = { guides: [], readings: [] };
    expect(reportPaper(empty, plainChoice)).toEqual([]);
  });

  it('shows pictures of the story as they were told, and the tray’s others once', () => {
    const then = {
      seq: 3,
      look: { steps: [{ kind: 'invert' as const }] },
      orientation: { quarterTurns: 2 as const, mirrored: true }
    };
    const all = reportPaper(facts({ told: [asTold('e1', 'a'), asTold('e2', 'a', then)] }), plainChoice);
    expect(keys(all)).toEqual(['story', 'told', 'tray:t', 'kept', 'guide:s', 'readings', 'papers']);
    expect(all[1]).toMatchObject({
      entries: [
        { key: 'e1', shown: { look, orientation: { quarterTurns: 0 } } },
        { key: 'e2', shown: { look: then.look, orientation: then.orientation } }
      ]
    });
    expect(entriesOf(all, 'tray:t')).toEqual(['b']);
  });

  it('shows a kept view as it was kept, with what was drawn only where drawings are wanted', () => {
    const view = (drawn: boolean) => {
      const section = reportPaper(facts(), { ...plainChoice, drawn }).find(({ key }) => key === 'kept')!;
      return section.kind === 'pictures' ? section.entries[0] : null;
    };
    expect(view(true)).toMatchObject({
      name: 'The break',
      lines: ['b.png', 'moment 2026-11-29T10:00:00Z', 'seen from the side'],
      shown: { pictureId: 'b', window: { left: 10, width: 20 }, orientation: { quarterTurns: 1 } }
    });
    expect([view(true)!.shown.drawings.length, view(false)!.shown.drawings.length]).toEqual([1, 0]);
  });

  it('calls a paper by its title only where the patient is named too', () => {
    const named = (names: 'initials' | 'full') =>
      freeWords(reportPaper(facts(), { ...plainChoice, names })).some((words) => words.includes('Isolde'));
    expect([named('initials'), named('full')]).toEqual([false, true]);
  });

  it('leaves out what was taken out: a section, an entry, all entries of one', () => {
    const paper = reportPaper(facts(), { ...plainChoice, out: ['readings', 'a', 's:tilt', 'p1'] });
    expect(keys(paper)).toEqual(['story', 'tray:t', 'kept', 'guide:s']);
    expect(entriesOf(paper, 'tray:t')).toEqual(['b']);
    const guide = paper.find(({ kind }) => kind === 'guide');
    expect(guide?.kind === 'guide' && guide.guide.lines.map(({ key }) => key)).toEqual(['inclination']);
  });

  it('keeps what a stored choice says, and refuses what none can say', () => {
    expect(reportChoice.schema.safeParse(plainChoice).success).toBe(true);
    for (const wrong of [{ across: 0 }, { across: 5 }, { names: 'nobody' }, { more: 1 }, { out: [1] }])
      expect(reportChoice.schema.safeParse({ ...plainChoice, ...wrong }).success).toBe(false);
  });
});

describe('sections in an order that was chosen', () => {
  const sections = ['a', 'b', 'c', 'd'].map((key) => ({ key }));
  const order = (...chosen: string[]) => inOrder(sections, chosen).map(({ key }) => key);

  it('follow it; what it does not name stays behind what it followed', () => {
    expect(order()).toEqual(['a', 'b', 'c', 'd']);
    expect(order('d', 'b', 'a', 'c')).toEqual(['d', 'b', 'a', 'c']);
    // Somebody ordered before c came.
    expect(order('d', 'b', 'a')).toEqual(['d', 'b', 'c', 'a']);
    expect(order('gone', 'c', 'b')).toEqual(['a', 'c', 'd', 'b']);
  });

  it('are all there once, whatever the order names', () => {
    const random = seededRandom(7);
    for (let round = 0; round < 200; round++) {
      const chosen = ['a', 'b', 'c', 'd', 'x', 'y'].filter(() => random.uniform() < 0.6);
      chosen.sort(() => random.uniform() - 0.5);
      const got = order(...chosen);
      expect(got.toSorted()).toEqual(['a', 'b', 'c', 'd']);
      const named = got.filter((key) => chosen.includes(key));
      expect(named).toEqual(chosen.filter((key) => 'abcd'.includes(key)));
    }
  });
});

it('has the same sections whether or not pictures are drawn on', () => {
  const of = (drawn: boolean) =>
    reportSections(facts(), { drawn, names: 'full' }).map(({ key, entries }) => [key, entries.length]);
  expect(of(true)).toEqual(of(false));
});
