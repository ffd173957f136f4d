import { describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { readyVisit, smallOffer, smallSamples } from '../../../../e2e/harness/testSensor';
import { placeKey, toothPlaces } from '../../core/anatomy/place';
import { placesOf } from '../../core/picture/pictureView';
import { seededRandom } from '../../core/random';
import { newId } from '../ids';
import { wishOfTray } from '../trays/wishes';
import { visitView } from '../visits/visits';
import { bringBackPictures, takeAway } from './away';
import { keepAct, takeBack } from './changes';
import { linkToPlaces } from './links';
import { movePicture } from './moving';

const clinic = useClinic();
const who = () => clinic.caller();

describe('the places by which pictures are found', () => {
  it('are those that pages show, whatever is done to pictures and their tray', async () => {
    const { visitId, trayId, sensor } = await readyVisit(clinic);
    const pictures: string[] = [];
    for (let i = 0; i < 4; i++) {
      const { armingId } = await sensor.armed();
      pictures.push((await sensor.take(`key-${newId()}`, smallOffer(armingId), smallSamples(i))).pictureId);
    }
    const other = await clinic.newPatient('Found', 'Else', 'REC-E1');
    const elsewhere = await clinic.newVisit(other);
    const { uniform } = seededRandom(41);
    const pick = <T>(list: readonly T[]): T => list[Math.floor(uniform() * list.length)];
    const inBin = new Set<string>();
    const acts: Record<string, (id: string) => Promise<unknown>> = {
      link: (id) =>
        linkToPlaces(who(), newId(), {
          links: [{ pictureId: id, places: toothPlaces([11, 24, 36].filter(() => uniform() < 0.5)) }]
        }),
      lay: async (id) => {
        const { tray } = await clinic.trayOf(visitId);
        const slotId = pick([...tray.route, null]);
        await wishOfTray(who(), trayId, newId(), { kind: 'take-moved', takeId: id, slotId });
      },
      delete: async (id) => {
        await takeAway(who(), newId(), 'bin', { pictureIds: [id], reason: 'By chance' });
        inBin.add(id);
      },
      'bring back': async () => {
        const lying = [...inBin];
        if (lying.length === 0) return;
        const id = pick(lying);
        await bringBackPictures(who(), newId(), { pictureIds: [id] });
        inBin.delete(id);
      },
      date: (id) =>
        keepAct(who(), id, newId(), {
          changes: [
            { kind: 'taken' as 'grade', item: null, body: { at: '2025-02-03T04:05:06.000Z' }, version: 1 }
          ]
        }),
      undo: (id) => takeBack(who(), id, newId())
    };
    for (let step = 0; step < 45; step++) {
      const name = pick(Object.keys(acts));
      const free = pictures.filter((id) => !inBin.has(id));
      if (free.length > 0) await acts[name](pick(free));
      await expectSame(`step ${step}: ${name}`);
    }
    const [moved] = pictures.filter((id) => !inBin.has(id));
    if (moved) await movePicture(who(), moved, newId(), { visitId: elsewhere, reason: 'Of somebody else' });
    await expectSame('moved to another chart');

    async function expectSame(when: string): Promise<void> {
      const views = [
        ...(await visitView(who(), visitId)).pictures,
        ...(await visitView(who(), elsewhere)).pictures
      ];
      const { rows } = await clinic.owner.query<{ line: string }>(
        `select concat_ws(' ', picture_id, place_key, patient_id, kind, floor(extract(epoch from taken_at))) as line
         from picture_at where picture_id = any($1) order by 1`,
        [pictures]
      );
      const { rows: standing } = await clinic.owner.query<{ picture_id: string }>(
        'select picture_id from standing where keeper and picture_id = any($1)',
        [pictures]
      );
      const keepers = new Set(standing.map(({ picture_id }) => picture_id));
      const shown = views
        // What stands for its slot shows what that is for; what only lies in it shows what it is linked to.
        .filter(({ pictureId, placed }) => placed || keepers.has(pictureId))
        .flatMap((view) =>
          placesOf(view).map((place) =>
            [
              view.pictureId,
              placeKey(place),
              view.patientId,
              view.kind,
              Math.floor(Date.parse(view.takenAt) / 1000)
            ].join(' ')
          )
        );
      expect(rows.map(({ line }) => line).sort(), when).toEqual(shown.sort());
    }
  });
});
