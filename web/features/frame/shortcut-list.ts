const EVERYWHERE: [string, string][] = [
  ['Ctrl K or /', 'find a cell, lot, report or place'],
  ['?', 'this list'],
  ['Esc', 'close the panel on top'],
];
const BY_PLACE: [RegExp, [string, string][]][] = [
  [
    /^\/lots\/[^/]+\/arrival\/inspection/,
    [
      ['Space or Enter', 'on the tally: pick the cell; with Shift, all up to it'],
      ['the letter beside a finding', 'found on the picked cells'],
      ['C', 'the picked cells are clear'],
      ['X', 'all others are clear'],
      ['Esc', 'pick none'],
    ],
  ],
  [/^\/lots\/[^/]+\/arrival/, [['a scanner', 'finds the cell, or gives it its code']]],
  [
    /^\/lots\/[^/]+\/(arrival\/)?readings/,
    [
      ['Enter', 'keep the value, next cell'],
      ['↑ ↓ ← →', 'move'],
      ['Ctrl Z', 'take the last entry back'],
      ['Ctrl V', 'fill downwards from a spreadsheet'],
    ],
  ],
  [
    /^\/(arrivals$|lots\/[^/]+\/cells)/,
    [
      ['↑ ↓, Page up, Page down, Home, End', 'in the table: move between rows'],
      ['Enter', 'in the table: open the row'],
    ],
  ],
  [
    /^\/lots\/[^/]+\/cells/,
    [
      ['Space', 'in the table: choose the row'],
      ['Shift and a press', 'in the table: choose all rows up to it'],
    ],
  ],
  [
    /^\/(lots|cells)\//,
    [
      ['← →', 'on the tally: previous, next stroke'],
      ['↑ ↓, Page up, Page down', 'on the tally: five or fifty strokes on'],
      ['Home, End', 'on the tally: first, last stroke'],
      ['Enter', 'on the tally: open the cell, or the cells of a stroke'],
      ['Esc', 'on the tally: back to all cells'],
    ],
  ],
  [/^\/cells\//, [['J, K', 'next, previous cell']]],
];

/** Keys and what they do on a page, the page’s own first. */
export const shortcutsOf = (path: string): [keys: string, what: string][] => [
  ...BY_PLACE.filter(([pattern]) => pattern.test(path)).flatMap(([, keys]) => keys),
  ...EVERYWHERE,
];
