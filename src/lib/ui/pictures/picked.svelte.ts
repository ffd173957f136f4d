import { SvelteMap } from 'svelte/reactivity';
import type { ListedPicture } from '$core/picture/pictureSearch';

/** Pictures of a list that are picked to do something with all of them at once. */
export class Picked {
  private readonly byId = new SvelteMap<string, ListedPicture>();
  /** From where a stretch is picked. */
  private anchor: string | null = null;

  get count(): number {
    return this.byId.size;
  }
  get pictures(): ListedPicture[] {
    return [...this.byId.values()];
  }
  get ids(): string[] {
    return [...this.byId.keys()];
  }
  has = (pictureId: string): boolean => this.byId.has(pictureId);

  toggle(picture: ListedPicture): void {
    if (!this.byId.delete(picture.pictureId)) this.byId.set(picture.pictureId, picture);
    this.anchor = picture.pictureId;
  }

  /** Picks everything in a list from where was picked last to here. */
  stretch(list: readonly ListedPicture[], to: ListedPicture): void {
    const index = (id: string | null) => list.findIndex(({ pictureId }) => pictureId === id);
    const [from, until] = [index(this.anchor), index(to.pictureId)];
    if (from < 0) return this.toggle(to);
    for (const each of list.slice(Math.min(from, until), Math.max(from, until) + 1))
      this.byId.set(each.pictureId, each);
  }

  all(list: readonly ListedPicture[]): void {
    for (const each of list) this.byId.set(each.pictureId, each);
  }
  none(): void {
    this.byId.clear();
    this.anchor = null;
  }
}
