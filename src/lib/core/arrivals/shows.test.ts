import { describe, expect, it } from 'vitest';
import { placeKey } from '../anatomy/place';
import { type Says, nameAsRead, nothingSaid } from './says';
import { shownIn } from './shows';

const says = (shows: Partial<Says['shows']>, description = '', species = ''): Says => ({
  ...nothingSaid,
  person: { ...nothingSaid.person, species },
  series: { ...nothingSaid.series, description },
  shows: { ...nothingSaid.shows, ...shows }
});
const keys = (of: Says, file = '', beside: Says[] = []) => shownIn(of, file, beside).places.map(placeKey);

describe('what a picture shows', () => {
  it('is told by its header, its description, or its file’s name, and says by which', () => {
    expect(shownIn(says({ bodyPart: 'WRIST', laterality: 'R', view: 'LL' }), '')).toMatchObject({
      name: 'Right wrist, from the side',
      why: ['the header'],
      lacks: null
    });
    expect(shownIn(says({}, 'Knee left AP standing'), '')).toMatchObject({
      name: 'Left knee, from the front',
      why: ['its description']
    });
    expect(shownIn(says({}), 'skaldarsen_hand_R_2.png')).toMatchObject({
      name: 'Right hand',
      why: ['the file’s name']
    });
    expect(keys(says({ regionCode: '122494005' }))).toEqual(['spine:person:neck']);
    expect(keys(says({}, 'OPG'))).toEqual(['wide view:panoramic']);
  });
  it('teeth come from codes or from words', () => {
    expect(keys(says({ structures: ['16', '17'] }, 'bitewing'))).toEqual(['tooth:16', 'tooth:17']);
    expect(keys(says({}, 'PA tooth 46, 47'))).toEqual(['tooth:46', 'tooth:47']);
    expect(keys(says({}, 'tooth 99'))).toEqual([]);
  });
  it('lacks the side where none is said, and takes it from its neighbours where they agree', () => {
    const plain = says({ bodyPart: 'HAND' });
    expect(shownIn(plain, 'a.dcm')).toMatchObject({ places: [], lacks: 'side', name: 'Hand, side not said' });
    const right = says({ bodyPart: 'HAND', laterality: 'R' });
    expect(shownIn(plain, '', [right])).toMatchObject({ why: ['the header', 'the pictures beside it'] });
    expect(keys(plain, '', [right, says({ bodyPart: 'HAND', laterality: 'L' })])).toEqual([]);
  });
  it('takes no side where header and words contradict each other', () => {
    expect(shownIn(says({ bodyPart: 'KNEE', laterality: 'R' }, 'knee left'), '').lacks).toBe('side');
  });
  it('of an animal is an animal’s place: a knee is a stifle', () => {
    expect(keys(says({ bodyPart: 'KNEE', laterality: 'L' }, '', 'dog'))).toEqual(['bone:animal:stifle:left']);
  });
  it('a horse’s fore leg is no lower leg', () => {
    expect(keys(says({}, 'Tendon, right fore leg', ''), '')).toEqual([]);
    expect(keys(says({}, 'Leg right AP'))).toEqual(['bone:person:lower leg:right']);
  });
  it('is nothing where nothing is known', () => {
    expect(shownIn(nothingSaid, 'IMG0001.dcm')).toMatchObject({ name: '', places: [], lacks: null });
  });
});

describe('a name in several scripts', () => {
  it('is read given name first, ideograms as they are written', () => {
    expect(nameAsRead('Yamada^Tarou=山田^太郎=やまだ^たろう')).toBe(
      'Tarou Yamada (山田 太郎, やまだ たろう)'
    );
    expect(nameAsRead('Quayle^Matthis^J')).toBe('Matthis J Quayle');
    expect(nameAsRead('')).toBe('');
  });
});
