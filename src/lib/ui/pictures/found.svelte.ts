import { type ListedPicture, type PictureSearch, isLimited, searchQuery } from '$core/picture/pictureSearch';
import { type Place, placeKey, samePlace } from '$core/anatomy/place';
import { placeOfKey } from '$core/anatomy/placeOfKey';
import { replaceState } from '$app/navigation';
import { attempt, send } from '../net/send';

interface Page {
  pictures: ListedPicture[];
  older: string | null;
  found?: number | null;
}

/** Pictures that are searched for, as far as they have been looked at: page by page from the server. */
export class FoundPictures {
  search = $state.raw<PictureSearch>()!;
  pictures = $state.raw<readonly ListedPicture[]>([]);
  /** How many there are of what is asked for. */
  found = $state(0);
  /** Whether a first page is on its way. */
  looking = $state(false);
  /** Whether the next page did not come: it is fetched again when somebody asks for it. */
  failed = $state(false);
  private older = $state.raw<string | null>(null);
  private fetching = false;
  /** Of several questions only the last one's answer counts. */
  private asked = 0;

  constructor(
    /** Where pages of them are asked for. */
    private readonly url: string,
    search: PictureSearch,
    first: { pictures: readonly ListedPicture[]; older: string | null; found: number }
  ) {
    this.search = search;
    this.begin(first);
  }

  begin(first: { pictures: readonly ListedPicture[]; older: string | null; found: number }): void {
    this.asked++;
    this.fetching = this.looking = this.failed = false;
    this.pictures = first.pictures;
    this.older = first.older;
    this.found = first.found;
  }

  get limited(): boolean {
    return isLimited(this.search);
  }
  get all(): boolean {
    return this.older === null;
  }

  /** Places that pictures are asked for by. */
  get places(): Place[] {
    return this.search.places.flatMap((key) => placeOfKey(key) ?? []);
  }

  /** Asks for something else than before. The address says so: it can be come back to, and be sent to a colleague. */
  ask = async (part: Partial<PictureSearch>): Promise<void> => {
    this.search = { ...this.search, ...part };
    const query = searchQuery(this.search).toString();
    replaceState(query ? `?${query}` : location.pathname, {});
    await this.again();
  };

  /** Asks by these places too, or no longer. */
  pick = (places: readonly Place[], on: boolean): void => {
    const keys = places.map(placeKey);
    const others = this.search.places.filter((key) => !keys.includes(key));
    void this.ask({ places: on ? [...others, ...keys] : others });
  };
  choose = (place: Place): void => this.pick([place], !this.places.some((each) => samePlace(each, place)));

  async again(): Promise<void> {
    const asked = ++this.asked;
    this.looking = true;
    await attempt(async () => {
      const page = await this.page(null);
      if (asked === this.asked) this.begin({ ...page, found: page.found ?? 0 });
    });
    if (asked === this.asked) this.looking = false;
  }

  /** The next page, where there is one and it is not on its way; after one that did not come only for who asks. */
  async more(again = false): Promise<void> {
    if (this.fetching || this.older === null || (this.failed && !again)) return;
    this.failed = false;
    this.fetching = true;
    const asked = this.asked;
    const worked = await attempt(async () => {
      const page = await this.page(this.older);
      if (asked !== this.asked) return;
      this.pictures = [...this.pictures, ...page.pictures];
      this.older = page.older;
    });
    if (!worked && asked === this.asked) this.failed = true;
    this.fetching = false;
  }

  private page(after: string | null): Promise<Page> {
    const query = searchQuery(this.search);
    if (after !== null) query.set('after', after);
    return send<Page>('GET', `${this.url}?${query}`);
  }
}
