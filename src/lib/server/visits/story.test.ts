import { beforeAll, describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { type StoryWriting, storyWriting } from '../../core/visit/story';
import { sequelize } from '../database/connection';
import { newId } from '../ids';
import { earlierWordings, storySeen, writeStory } from './story';
import { visitsSeen } from './visitList';
import { openVisit } from './visits';

const clinic = useClinic();
let visitId: string;
beforeAll(async () => {
  visitId = await openVisit(clinic.caller(), clinic.patientId, clinic.roomId);
});

const write = (writing: StoryWriting, as = clinic.caller()) => writeStory(as, visitId, newId(), writing);

describe('the story of a visit', () => {
  it('holds what was written last of each part, with who and when', async () => {
    await write({ part: 'reason', body: 'Fell' });
    await write({ part: 'question', body: 'Is it broken?' });
    await write({ part: 'planned on', body: '2031-02-03' });
    const story = await storySeen(clinic.caller(), visitId);
    expect(story.texts.reason).toMatchObject({ body: 'Fell', by: clinic.caller().name, earlier: 0 });
    expect(story.texts.question?.body).toBe('Is it broken?');
    expect(story.plannedOn?.body).toBe('2031-02-03');
    expect(story.pictures).toEqual([]);
  });

  it('takes what is typed on as one wording, and keeps another’s beside it', async () => {
    await write({ part: 'history', body: 'Since' });
    await write({ part: 'history', body: 'Since this morning' });
    expect(await earlierWordings(clinic.caller(), visitId, 'history')).toEqual([]);
    const other = clinic.caller('assistant');
    await write({ part: 'history', body: 'Since yesterday' }, other);
    expect((await storySeen(other, visitId)).texts.history).toMatchObject({
      body: 'Since yesterday',
      by: 'The assistant',
      earlier: 1
    });
    const [before] = await earlierWordings(other, visitId, 'history');
    expect(before).toMatchObject({ text: 'Since this morning', by: clinic.caller().name });
    await write({ part: 'history', body: 'Since noon' });
    expect((await earlierWordings(other, visitId, 'history')).map(({ text }) => text)).toEqual([
      'Since yesterday',
      'Since this morning'
    ]);
  });

  it('loses nothing when two write the same part at once', async () => {
    const other = clinic.caller('front-desk');
    await Promise.all([
      write({ part: 'colleague', body: 'one' }),
      write({ part: 'colleague', body: 'two' }, other)
    ]);
    const last = (await storySeen(other, visitId)).texts.colleague!.body;
    const [before] = await earlierWordings(other, visitId, 'colleague');
    expect([last, before.text].sort()).toEqual(['one', 'two']);
  });

  it('is what the list of visits says they were for', async () => {
    const [visit] = await visitsSeen(clinic.caller(), clinic.patientId);
    expect(visit.reason).toBe('Fell');
  });

  it('tells of its own visit’s pictures only', async () => {
    const stranger = newId();
    await expect(
      write({ part: 'pictures', body: [{ id: newId(), pictureId: stranger, as: null, words: '' }] })
    ).rejects.toThrow(/does not lie in this visit/);
    expect((await storySeen(clinic.caller(), visitId)).pictures).toEqual([]);
  });

  it('is not written by an administrator, and never taken away', async () => {
    await expect(write({ part: 'plan', body: 'x' }, clinic.caller('administrator'))).rejects.toThrow();
    await expect(sequelize().query('delete from visit_story')).rejects.toThrow(/permission denied/);
  });
});

describe('what is written', () => {
  it.each([
    { part: 'reason', body: 'x'.repeat(8001) },
    { part: 'reason', body: 7 },
    { part: 'planned on', body: 'soon' },
    { part: 'weather', body: 'fair' },
    { part: 'pictures', body: [{ id: newId(), pictureId: newId(), as: { seq: -1 }, words: '' }] },
    {
      part: 'pictures',
      body: [1, 2].map(() => ({
        id: '01900001-0000-7000-8000-000000000001',
        pictureId: newId(),
        as: null,
        words: ''
      }))
    }
  ])('is refused when it is $part like this', (writing) => {
    expect(storyWriting.safeParse(writing).success).toBe(false);
  });
});
