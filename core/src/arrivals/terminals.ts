/** How a cell is connected. */
export const TERMINAL_TYPES = ['threadedHole', 'weldedStud', 'tab', 'flat'] as const;
/** One of them. */
export type TerminalType = (typeof TERMINAL_TYPES)[number];
