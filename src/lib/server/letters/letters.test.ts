import { execFileSync } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { afterAll, describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { picturesOnPaper, wordsOnPaper } from '../../../../e2e/harness/pdf';
import { placeKey, toothPlaces } from '../../core/anatomy/place';
import type { LetterBody } from '../../core/letter/letterBody';
import type { PicturePlace } from '../../core/letter/letterPlace';
import type { LetterSaid } from '../../core/letter/letterView';
import { shippedTemplates } from '../../core/letter/shipped';
import { keepAddress, keepLogo } from '../clinics/letterhead';
import { dayInWords } from '../../core/time/clinicTime';
import { newId } from '../ids';
import { recordOfPatient } from '../audit/ofPatient';
import { takeAway } from '../pictures/away';
import { filePictures, keepCategory } from '../pictures/categories';
import { linkToPlaces } from '../pictures/links';
import { writeStory } from '../visits/story';
import { keepColleague, retireColleague } from './colleagues';
import { filled } from './filling';
import { letterOut } from './letterOut';
import { beginLetter, changeLetter, dropLetter, letter, lettersOf, referrerOf } from './letters';
import { keepTemplate, retireTemplate, template, templates, templateVersion } from './templates';

const clinic = useClinic();
const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-letters-'));
afterAll(() => fs.rmSync(folder, { recursive: true, force: true }));

const monthMs = (365.25 / 12) * 86_400_000;
let shade = 0;
const png = (width = 60, height = 40) =>
  sharp({ create: { width, height, channels: 3, background: { r: ++shade % 255, g: 90, b: 120 } } })
    .png()
    .toBuffer();
const place = (own: Partial<PicturePlace> = {}): PicturePlace => ({
  id: newId(),
  xMm: 0,
  yMm: 0,
  widthMm: 60,
  heightMm: 40,
  want: { kind: 'newest', category: '', place: '', pictureKind: null },
  caption: '',
  drawn: true,
  atMostMonths: null,
  ...own
});
const body = (...content: LetterBody['content']): LetterBody => ({ type: 'doc', content });
const says = (text: string): LetterBody['content'][number] => ({
  type: 'paragraph',
  content: [{ type: 'text', text }]
});
const field = (name: string): LetterBody['content'][number] => ({
  type: 'paragraph',
  content: [{ type: 'field', attrs: { name } }]
});
const pictures = (...places: PicturePlace[]): LetterBody['content'][number] => ({
  type: 'pictures',
  attrs: { places }
});
const plain: LetterSaid = { names: 'initials', colleagueId: null, reasons: [], procedures: [] };
let people = 0;
async function visit() {
  const patientId = await clinic.newPatient('Wick', `Ada${'abcdefghij'[people++ % 10]}`, `REC-L${people}`);
  return { patientId, visitId: await clinic.newVisit(patientId) };
}
const begun = async (visitId: string, letterBody: LetterBody, said: Partial<LetterSaid> = {}) => {
  const { letterId } = await beginLetter(clinic.caller(), visitId, newId(), {
    template: { shipped: shippedTemplates[0].key },
    ...plain,
    ...said
  });
  await changeLetter(clinic.caller(), visitId, letterId, newId(), {
    of: 1,
    title: 'A letter',
    body: letterBody,
    ...plain,
    ...said
  });
  return letterId;
};

const refusedFor = (code: string) => expect.objectContaining({ code });

describe('a template', () => {
  const make = (name: string, of: LetterBody = body(says('One'))) =>
    keepTemplate(clinic.caller(), newId(), { of: null, name, body: of });

  it('keeps what one person writes at once as one version, and everything after a letter as another', async () => {
    const { templateId } = await make('Versions');
    const change = (seq: number, text: string, who = clinic.caller()) =>
      keepTemplate(who, newId(), { of: { templateId, seq }, name: 'Versions', body: body(says(text)) });
    expect(await change(1, 'Two')).toMatchObject({ seq: 2, number: 1 });
    expect(await change(2, 'Three', clinic.caller('assistant'))).toMatchObject({ seq: 3, number: 2 });
    const { visitId } = await visit();
    await beginLetter(clinic.caller(), visitId, newId(), { template: { templateId }, ...plain });
    expect(await change(3, 'Four', clinic.caller('assistant'))).toMatchObject({ seq: 4, number: 3 });
    expect(await templateVersion(clinic.caller(), templateId, 1)).toEqual(body(says('Two')));
    const now = await template(clinic.caller(), templateId);
    expect(now.body).toEqual(body(says('Four')));
    expect(now.versions.map(({ number, by }) => [number, by])).toEqual([
      [3, 'The assistant'],
      [2, 'The assistant'],
      [1, 'The clinician']
    ]);
    // A letter stays as its template was.
    const [{ letterId }] = await lettersOf(clinic.caller(), visitId);
    expect((await letter(clinic.caller(), visitId, letterId)).body).toEqual(body(says('Three')));
  });

  it('that two people change is written over by neither, and the one who comes late hears who was there', async () => {
    const { templateId } = await make('Two of us');
    const change = (text: string, role: 'clinician' | 'assistant') =>
      keepTemplate(clinic.caller(role), newId(), {
        of: { templateId, seq: 1 },
        name: 'Two of us',
        body: body(says(text))
      });
    await change('Mine', 'assistant');
    await expect(change('Yours', 'clinician')).rejects.toThrow(/^The assistant has changed “Two of us”/);
    expect((await template(clinic.caller(), templateId)).body).toEqual(body(says('Mine')));
    // Both at one moment: one of them is refused.
    const race = await Promise.allSettled(
      (['assistant', 'clinician'] as const).map((role) =>
        keepTemplate(clinic.caller(role), newId(), {
          of: { templateId, seq: 2 },
          name: 'Two of us',
          body: body(says(role))
        })
      )
    );
    expect(race.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
  });

  it('has a name of its own, is put away and comes back, and no front desk changes it', async () => {
    const { templateId } = await make('Named');
    await expect(make('named')).rejects.toEqual(refusedFor('name-taken'));
    await retireTemplate(clinic.caller(), newId(), templateId, true);
    await make('named');
    await expect(retireTemplate(clinic.caller(), newId(), templateId, false)).rejects.toEqual(
      refusedFor('name-taken')
    );
    expect((await templates(clinic.caller())).find((each) => each.templateId === templateId)?.retired).toBe(
      true
    );
    await expect(
      keepTemplate(clinic.caller('front-desk'), newId(), { of: null, name: 'No', body: body(says('No')) })
    ).rejects.toEqual(refusedFor('not-allowed'));
    await expect(template(clinic.stranger, templateId)).rejects.toEqual(refusedFor('not-found'));
  });
});

describe('what fills a letter', () => {
  it('is the newest picture of the whole chart that fits: by kind, by category, by place in the body', async () => {
    const { patientId, visitId } = await visit();
    const before = await clinic.newVisit(patientId);
    const ids = [
      await clinic.bring(before, 'old.png', await png()),
      await clinic.bring(visitId, 'new.png', await png())
    ];
    for (const [i, id] of ids.entries())
      await clinic.owner.query('update picture set taken_at = $2 where picture_id = $1', [
        id,
        new Date(Date.now() - (14 - 13 * i) * monthMs)
      ]);
    const { categoryId } = await keepCategory(clinic.caller(), newId(), null, {
      name: `Referral ${newId().slice(-6)}`,
      rule: null
    });
    const { rows } = await clinic.owner.query<{ name: string }>(
      'select name from category where category_id = $1',
      [categoryId]
    );
    await filePictures(clinic.caller(), newId(), categoryId, { pictureIds: [ids[0]], filed: true });
    await linkToPlaces(clinic.caller(), newId(), {
      links: [{ pictureId: ids[0], places: toothPlaces([26]) }]
    });
    const wanted = {
      any: place({ atMostMonths: 12 }),
      category: place({
        want: { kind: 'newest', category: rows[0].name.toUpperCase(), place: '', pictureKind: null },
        atMostMonths: 12
      }),
      tooth: place({
        want: { kind: 'newest', category: '', place: placeKey(toothPlaces([26])[0]), pictureKind: null }
      }),
      unknown: place({ want: { kind: 'newest', category: 'Never heard of', place: '', pictureKind: null } }),
      ultrasound: place({
        want: { kind: 'newest', category: '', place: '', pictureKind: 'ultrasound' }
      }),
      picked: place({ want: { kind: 'picked', pictureId: ids[0] } })
    };
    const { filling } = await filled(clinic.caller(), visitId, {
      ...plain,
      body: body(pictures(...Object.values(wanted)))
    });
    const took = (of: keyof typeof wanted) => filling.places[wanted[of].id]?.pictureId ?? null;
    expect(took('any')).toBe(ids[1]);
    expect(took('category')).toBe(ids[0]);
    expect(took('tooth')).toBe(ids[0]);
    expect(took('picked')).toBe(ids[0]);
    expect([took('unknown'), took('ultrasound')]).toEqual([null, null]);
    expect(filling.missing.map(({ kind, of }) => [kind, of])).toEqual([
      ['old', wanted.category.id],
      ['place', wanted.unknown.id],
      ['place', wanted.ultrasound.id]
    ]);
    const noTooth = place({
      want: { kind: 'newest', category: '', place: placeKey(toothPlaces([11])[0]), pictureKind: null }
    });
    const empty = await filled(clinic.caller(), visitId, { ...plain, body: body(pictures(noTooth)) });
    expect(empty.filling.missing[0].words).toBe(
      'Picture 1 is empty: the chart has no picture of upper right central incisor.'
    );
    // One that was deleted since is told.
    await takeAway(clinic.caller(), newId(), 'bin', { pictureIds: [ids[0]], reason: 'wrong patient' });
    const after = await filled(clinic.caller(), visitId, {
      ...plain,
      body: body(pictures(wanted.picked))
    });
    expect(after.filling.missing).toMatchObject([{ kind: 'gone', of: wanted.picked.id }]);
  });

  it('is never a picture of somebody else', async () => {
    const [mine, theirs] = [await visit(), await visit()];
    const pictureId = await clinic.bring(theirs.visitId, 'theirs.png', await png());
    const wanted = place({ want: { kind: 'picked', pictureId } });
    const { filling } = await filled(clinic.caller(), mine.visitId, {
      ...plain,
      body: body(pictures(wanted))
    });
    expect(filling.places[wanted.id]).toBeNull();
  });

  it('is what the story says, what was picked and whom it goes to, who is proposed the next time', async () => {
    const { patientId, visitId } = await visit();
    await writeStory(clinic.caller(), visitId, newId(), { part: 'question', body: 'Is it cracked?' });
    const colleague = await keepColleague(clinic.caller('front-desk'), newId(), null, {
      name: 'Dr Merrin Brackwater',
      greeting: 'Dear Merrin,',
      practice: 'Teal Harbour',
      address: '9 Capstan Row',
      likes: 'paper',
      destinationId: null
    });
    expect(await referrerOf(clinic.caller(), visitId)).toBeNull();
    const said = {
      ...plain,
      colleagueId: colleague.colleagueId,
      reasons: ['Sore', 'Fell'],
      procedures: ['Full mouth']
    };
    await begun(visitId, body(field('to')), said);
    const { filling } = await filled(clinic.caller(), visitId, { ...said, body: body(field('to')) });
    expect(filling.fields).toMatchObject({
      to: 'Dr Merrin Brackwater',
      greeting: 'Dear Merrin,',
      address: 'Teal Harbour\n9 Capstan Row',
      question: 'Is it cracked?',
      reasons: 'Sore; Fell',
      procedures: 'Full mouth'
    });
    const next = await clinic.newVisit(patientId);
    expect(await referrerOf(clinic.caller(), next)).toBe(colleague.colleagueId);
    await retireColleague(clinic.caller(), newId(), colleague.colleagueId);
    expect(await referrerOf(clinic.caller(), next)).toBeNull();
  });
});

describe('a letter', () => {
  it('that somebody else changed meanwhile is not written over; the same act asked twice is done once', async () => {
    const { visitId } = await visit();
    const letterId = await begun(visitId, body(says('First')));
    const wish = { of: 2, title: 'A letter', body: body(says('Second')), ...plain };
    const key = newId();
    expect(await changeLetter(clinic.caller(), visitId, letterId, key, wish)).toEqual({ seq: 3 });
    expect(await changeLetter(clinic.caller(), visitId, letterId, key, wish)).toEqual({ seq: 3 });
    await expect(
      changeLetter(clinic.caller('assistant'), visitId, letterId, newId(), {
        ...wish,
        body: body(says('Late'))
      })
    ).rejects.toEqual(refusedFor('letter-changed'));
    expect((await letter(clinic.caller(), visitId, letterId)).body).toEqual(body(says('Second')));
  });

  it('is in the record, is put away, and is closed to other clinics', async () => {
    const { patientId, visitId } = await visit();
    const letterId = await begun(visitId, body(says('Hello')));
    await expect(letter(clinic.stranger, visitId, letterId)).rejects.toEqual(refusedFor('not-found'));
    await expect(
      beginLetter(clinic.caller('administrator'), visitId, newId(), {
        template: { shipped: 'referral' },
        ...plain
      })
    ).rejects.toEqual(refusedFor('not-allowed'));
    await dropLetter(clinic.caller(), visitId, letterId, newId());
    expect(await lettersOf(clinic.caller(), visitId)).toEqual([]);
    await expect(letter(clinic.caller(), visitId, letterId)).rejects.toEqual(refusedFor('not-found'));
    const { lines } = await recordOfPatient(clinic.caller(), patientId, null);
    expect(lines.map(({ words }) => words)).toEqual(
      expect.arrayContaining(['began a letter', 'changed a letter', 'put a letter away'])
    );
  });

  it('on paper has its pictures where they were put and as large, with its words, and no name in its properties', async () => {
    const { visitId } = await visit();
    await clinic.bring(visitId, 'wide.png', await png(600, 400));
    const [left, right] = [
      place({ xMm: 0, yMm: 0, widthMm: 90, heightMm: 60, caption: 'To the left' }),
      place({ xMm: 100, yMm: 20, widthMm: 45, heightMm: 60, caption: 'To the right' })
    ];
    const letterId = await begun(
      visitId,
      body(
        field('patient'),
        field('history'),
        says('Before the pictures.'),
        pictures(left, right),
        says('After the pictures.')
      )
    );
    const made = await letterOut(clinic.caller(), visitId, letterId);
    const file = path.join(folder, 'letter.pdf');
    fs.writeFileSync(file, made.bytes);
    const run = (tool: string, ...args: string[]) => execFileSync(tool, args).toString();
    expect(made.named).toEqual([]);
    const info = run('pdfinfo', file);
    expect(info).not.toMatch(/Wick|Ada/);
    expect(info).toMatch(/Tagged:\s+yes/);
    const sizes = picturesOnPaper(file).map(({ widthMm, heightMm }) => [widthMm, heightMm]);
    // 3:2 fits 90 by 60 whole, and 45 by 60 at 30 mm high.
    for (const [i, [wide, high]] of [
      [90, 60],
      [45, 30]
    ].entries()) {
      expect(Math.abs(sizes[i][0] - wide)).toBeLessThan(0.3);
      expect(Math.abs(sizes[i][1] - high)).toBeLessThan(0.3);
    }
    const boxes = [
      ...run('pdftotext', '-bbox', file, '-').matchAll(
        /xMin="([\d.]+)" yMin="([\d.]+)" xMax="[\d.]+" yMax="([\d.]+)">(\w+)/g
      )
    ].map(([, x, y, foot, word]) => ({
      x: (+x / 72) * 25.4,
      y: (+y / 72) * 25.4,
      foot: (+foot / 72) * 25.4,
      word
    }));
    const find = (word: string) => boxes.find((each) => each.word === word)!;
    const [lefts, rights] = boxes.filter(({ word }) => word === 'To');
    expect(Math.abs(rights.x - lefts.x - 100)).toBeLessThan(0.3);
    expect(Math.abs(rights.y - lefts.y - 20)).toBeLessThan(0.3);
    // Captions lie under their pictures, and what follows under the last caption.
    expect(lefts.y - find('Before').foot).toBeGreaterThan(60);
    expect(find('After').y).toBeGreaterThan(rights.foot);
  });

  it('is dated in the words of the clinic’s language', async () => {
    const { visitId } = await visit();
    const letterId = await begun(visitId, body(field('today')));
    const file = path.join(folder, 'dated.pdf');
    for (const language of ['de', 'el', 'uk', 'vi']) {
      const made = await letterOut({ ...clinic.caller(), language }, visitId, letterId);
      fs.writeFileSync(file, made.bytes);
      expect(wordsOnPaper(file)).toContain(
        dayInWords(new Date(), { timeZone: clinic.caller().timeZone, language })
      );
    }
  });

  it('has no gap where all places of a row stay empty', async () => {
    const { visitId } = await visit();
    const letterId = await begun(
      visitId,
      body(says('Above'), pictures(place({ heightMm: 200 })), says('Below'))
    );
    const file = path.join(folder, 'empty.pdf');
    fs.writeFileSync(file, (await letterOut(clinic.caller(), visitId, letterId)).bytes);
    expect(wordsOnPaper(file)).toMatch(/Above\s+Below/);
    expect(execFileSync('pdfinfo', [file]).toString()).toMatch(/Pages:\s+1\n/);
  });

  it('tells of a name in what somebody wrote, and of letters that no font has', async () => {
    const { visitId } = await visit();
    const letterId = await begun(visitId, body(says('Mrs Wick slept well. 李')));
    const made = await letterOut(clinic.caller(), visitId, letterId);
    expect(made.named.map((each) => each.toLowerCase())).toContain('wick');
    expect(made.unwritable).toEqual(['李']);
  });

  it('holds lists, tables with spans, marks and headings', async () => {
    const { visitId } = await visit();
    const cell = (text: string, attrs = {}) => ({
      type: 'tableCell' as const,
      attrs,
      content: [says(text)]
    });
    const letterId = await begun(
      visitId,
      body(
        { type: 'heading', attrs: { level: 1 }, content: [{ type: 'text', text: 'Heading' }] },
        {
          type: 'bulletList',
          content: [{ type: 'listItem', content: [says('A point')] }]
        },
        {
          type: 'table',
          content: [
            { type: 'tableRow', content: [cell('Over both', { colspan: 2, rowspan: 1 })] },
            { type: 'tableRow', content: [cell('Tall', { colspan: 1, rowspan: 9 }), cell('Right')] },
            { type: 'tableRow', content: [cell('Under right')] }
          ]
        },
        {
          type: 'paragraph',
          content: [{ type: 'text', text: 'Slanted', marks: [{ type: 'italic' }, { type: 'bold' }] }]
        },
        { type: 'bodyMap' },
        { type: 'signature' }
      )
    );
    const made = await letterOut(clinic.caller(), visitId, letterId);
    const file = path.join(folder, 'parts.pdf');
    fs.writeFileSync(file, made.bytes);
    const text = wordsOnPaper(file);
    for (const words of [
      'Heading',
      'A point',
      'Over both',
      'Tall',
      'Under right',
      'Slanted',
      'The clinician'
    ])
      expect(text).toContain(words);
    expect(execFileSync('pdffonts', [file]).toString()).toMatch(/BoldItalic/i);
  });
});

describe('the head of a clinic’s papers', () => {
  const svg = (inside: string) =>
    Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 20">${inside}</svg>`);
  const logoOf = async () =>
    (
      await clinic.owner.query<{ logo: Buffer | null }>('select logo from letterhead where clinic_id = $1', [
        clinic.clinicId
      ])
    ).rows[0]?.logo ?? null;

  it('has a drawing as dots alone: whatever script or link was in it is gone', async () => {
    const secret = path.join(folder, 'secret.png');
    await sharp({ create: { width: 40, height: 20, channels: 3, background: '#ff0000' } }).toFile(secret);
    await keepLogo(
      clinic.caller('administrator'),
      svg(
        `<script>alert(1)</script><rect width="40" height="20" fill="#0000ff" onload="alert(2)"/>
         <image href="file://${secret}" width="40" height="20"/><image href="${secret}" width="40" height="20"/>`
      )
    );
    const logo = (await logoOf())!;
    const { data } = await sharp(logo).removeAlpha().raw().toBuffer({ resolveWithObject: true });
    expect([...data.subarray(0, 3)]).toEqual([0, 0, 255]);
    expect(logo.includes('script')).toBe(false);
  });

  it('refuses what is no picture or too large, and keeps the one that was there', async () => {
    const before = await logoOf();
    const admin = clinic.caller('administrator');
    await expect(keepLogo(admin, Buffer.from('Dear colleague'))).rejects.toEqual(
      refusedFor('logo-unreadable')
    );
    await expect(keepLogo(admin, { tooLarge: 40_000_000 })).rejects.toThrow(/40 MB; at most 8/);
    await expect(keepLogo(clinic.caller(), svg(''))).rejects.toEqual(refusedFor('not-allowed'));
    expect(await logoOf()).toEqual(before);
  });

  it('stands on a letter with the address', async () => {
    await keepAddress(clinic.caller('administrator'), { address: '2 Lantern Quay\nQuill Sound' });
    const { visitId } = await visit();
    const letterId = await begun(visitId, body(says('Hello')));
    const file = path.join(folder, 'head.pdf');
    fs.writeFileSync(file, (await letterOut(clinic.caller(), visitId, letterId)).bytes);
    expect(wordsOnPaper(file)).toContain('2 Lantern Quay');
    expect(execFileSync('pdfimages', ['-list', file]).toString().split('\n').length).toBeGreaterThan(3);
    await keepLogo(clinic.caller('administrator'), null);
    expect(await logoOf()).toBeNull();
  });
});
