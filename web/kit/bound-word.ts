/** What a figure is, for who reads it without its sign. */
export const boundWord = (bound: string | null): string =>
  bound === 'atLeast' ? 'at least' : bound === 'atMost' ? 'at most' : 'exact';
