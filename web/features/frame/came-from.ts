/** Pages that belong to a cell or a lot as such: one gets there from several places of the app. */
const SHARED = /^\/(cells|runs|figures)\/|^\/lots\/[^/]+\/(cells|logs|readings)(\/|$)/;

/**
 * The place of the app a page is marked under: its own one; for pages several places lead to the
 * one where the person came from, and what the page says itself where they came from nowhere.
 */
export function placeOf(path: string, own: string | null, before: string | null): string | null {
  return SHARED.test(path) ? (before ?? own) : own;
}
