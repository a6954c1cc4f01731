/** Largest id a row can have. */
const LARGEST = 4_294_967_295;

/** The id in an address; 0, which no row has, for whatever is none: `1.5`, `abc`, `999999999999`. */
export function idOf(text: string): number {
  const id = /^[1-9]\d{0,9}$/.test(text) ? Number(text) : 0;
  return id <= LARGEST ? id : 0;
}
