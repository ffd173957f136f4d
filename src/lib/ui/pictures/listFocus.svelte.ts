import { tick } from 'svelte';
import type { ListedPicture } from '$core/picture/pictureSearch';
import type { FoundPictures } from './found.svelte';
import type { Picked } from './picked.svelte';
import { type PictureRow, rowOf, stepped } from './pictureRows';

interface Given {
  found: FoundPictures;
  picked: Picked;
  rows: readonly PictureRow[];
  /** What holds the list; nothing until it is there. */
  box: HTMLElement | undefined;
  scrollTo: (row: number) => void;
  /** What other keys ask for of a picture. */
  onkey: (event: KeyboardEvent, picture: ListedPicture) => void;
}

const moving = ['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown', 'Home', 'End'];
/** A row that is scrolled to is drawn within so many frames, on a slow machine too. */
const framesWaited = 120;

/** Which picture of a windowed list has the focus, and how keys move it: rows that are not drawn are scrolled to first. */
export class ListFocus {
  private at = $state('');

  constructor(private readonly given: () => Given) {}

  /** The picture that Tab comes to. */
  get current(): string {
    const { pictures } = this.given().found;
    return pictures.some(({ pictureId }) => pictureId === this.at) ? this.at : (pictures[0]?.pictureId ?? '');
  }

  private async goTo(pictureId: string): Promise<void> {
    this.at = pictureId;
    const place = rowOf(this.given().rows, pictureId);
    if (!place) return;
    this.given().scrollTo(place.row);
    for (let i = 0; i < framesWaited; i++) {
      await tick();
      if (this.at !== pictureId) return;
      const link = this.given().box?.querySelector<HTMLElement>(`[data-picture="${pictureId}"]`);
      if (link) return link.focus({ preventScroll: true });
      // The row that had the focus may be drawn no longer: the list itself holds it, so that keys go on being heard.
      if (document.activeElement === document.body) this.given().box?.focus({ preventScroll: true });
      await new Promise(requestAnimationFrame);
    }
  }

  onKeydown = (event: KeyboardEvent): void => {
    const { found, picked, rows, onkey } = this.given();
    const target = event.target as HTMLElement;
    const id =
      target === this.given().box
        ? this.current
        : target.closest<HTMLElement>('[data-picture]')?.dataset.picture;
    const picture = found.pictures.find(({ pictureId }) => pictureId === id);
    if (!picture) return;
    if (!moving.includes(event.key)) return onkey(event, picture);
    event.preventDefault();
    const next = stepped(rows, picture.pictureId, event.key);
    if (event.shiftKey && next !== picture.pictureId) {
      if (!picked.has(picture.pictureId)) picked.toggle(picture);
      picked.stretch(
        found.pictures,
        found.pictures.find(({ pictureId }) => pictureId === next)!
      );
    }
    void this.goTo(next);
  };
}
