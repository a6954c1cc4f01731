/** A capacity as it is typed off a tester, with the current and the temperature it was found at. */
export const typedResult = (
  cellId: number,
  ah: number,
  {
    currentA,
    clientKey,
    decimals = 1,
  }: { currentA: number; clientKey: () => string; decimals?: number },
) => [
  {
    cellId,
    kind: 'currentShown' as const,
    value: currentA,
    decimals: 2,
    clientKey: clientKey(),
  },
  {
    cellId,
    kind: 'capacity' as const,
    value: ah,
    decimals,
    temperatureC: 25,
    clientKey: clientKey(),
  },
];
