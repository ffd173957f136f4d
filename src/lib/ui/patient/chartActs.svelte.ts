import { toast } from 'svelte-sonner';
import { goto } from '$app/navigation';
import { type Place, placesInWords, samePlace } from '$core/anatomy/place';
import type { Notation } from '$core/anatomy/teeth';
import { type Category, placesOf } from '$core/picture/pictureView';
import { ask, attempt } from '../net/send';
import type { Picked } from '../pictures/picked.svelte';
import { countWords } from '../words';

interface Given {
  picked: Picked;
  /** Places that are chosen on the drawing. */
  chosen: readonly Place[];
  notation: Notation;
  /** Shows the chart as it is after something was done. */
  anew: () => Promise<void>;
}
type Links = { pictureId: string; places: readonly Place[] }[];

/** The stage holds so many side by side. */
const mostBeside = 6;
const pictureWords = (count: number) => countWords(count, 'picture', 'pictures');

/** What is done with the pictures of a chart that are picked, all of them at once. */
export class ChartActs {
  constructor(private readonly given: () => Given) {}

  /** Lays them side by side on the light table, or opens the one. */
  compare(): void {
    const { picked } = this.given();
    const [first] = picked.pictures;
    const ids = picked.ids.slice(0, mostBeside);
    if (picked.count > mostBeside)
      toast(`The first ${mostBeside} of ${picked.count} lie side by side.`, {
        description: 'More do not fit on the stage.'
      });
    const on = ids.length > 1 ? `&on=${ids.join('.')}` : '';
    void goto(`/visits/${first.visitId}/measure?picture=${first.pictureId}${on}`);
  }

  private linked = (links: Links) => attempt(() => ask('/api/links', { links }));

  private async relink(after: (places: readonly Place[]) => Place[], done: string): Promise<void> {
    const { picked, anew } = this.given();
    const before: Links = picked.pictures.map((picture) => ({
      pictureId: picture.pictureId,
      places: placesOf(picture)
    }));
    const links = before.map(({ pictureId, places }) => ({ pictureId, places: after(places) }));
    if (!(await this.linked(links))) return;
    picked.none();
    toast(done, { action: { label: 'Undo', onClick: () => void this.linked(before).then(anew) } });
    await anew();
  }

  link(): Promise<void> {
    const { picked, chosen, notation } = this.given();
    return this.relink(
      (places) => [...places, ...chosen.filter((each) => !places.some((place) => samePlace(place, each)))],
      `${pictureWords(picked.count)} linked to ${placesInWords(chosen, notation)}.`
    );
  }

  unlink(): Promise<void> {
    const { picked, chosen, notation } = this.given();
    return this.relink(
      (places) => places.filter((place) => !chosen.some((each) => samePlace(each, place))),
      `${pictureWords(picked.count)} taken off ${placesInWords(chosen, notation)}; in the chart as before.`
    );
  }

  /** @returns whether they are away */
  async takeAway(to: 'bin' | 'arrivals', reason: string): Promise<boolean> {
    const { picked, anew } = this.given();
    const { ids: pictureIds, count } = picked;
    const done = await attempt(async () => {
      const url = `/api/pictures/${to === 'bin' ? 'delete' : 'to-arrivals'}`;
      const { sent } = await ask<{ sent: number }>(url, { pictureIds, reason });
      if (sent > 0)
        toast.warning(`${pictureWords(sent)} of them left the clinic before.`, {
          description: 'Tell those who got them.',
          duration: 20_000
        });
    });
    if (!done) return false;
    picked.none();
    if (to === 'bin')
      toast(`${pictureWords(count)} deleted.`, {
        action: { label: 'Undo', onClick: () => void this.bringBack(pictureIds) }
      });
    else toast(`${pictureWords(count)} taken back to Arrivals.`);
    await anew();
    return true;
  }

  async bringBack(pictureIds: readonly string[]): Promise<void> {
    await attempt(() => ask('/api/pictures/bring-back', { pictureIds }));
    await this.given().anew();
  }

  /** @returns whether they are filed, or no longer */
  async file(category: Category, pictureIds: readonly string[], filed: boolean): Promise<boolean> {
    const { picked, anew } = this.given();
    const url = `/api/categories/${category.categoryId}/pictures`;
    if (!(await attempt(() => ask(url, { pictureIds, filed })))) return false;
    picked.none();
    await anew();
    return true;
  }
}
