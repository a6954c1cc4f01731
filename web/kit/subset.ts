/** Numbers and ranges as typed: `17`, `B-0017`, `3-9`, `100 to 120`. */
export function parseSubset(text: string, numbers: string[]): Set<string> {
  const sequence = (number: string) => Number(/(\d+)$/.exec(number)?.[1]);
  const wanted = new Set<string>();
  for (const part of text
    .split(/[,;]+|\s{2,}/)
    .map((piece) => piece.trim())
    .filter(Boolean)) {
    const range = /^(?:[a-z]+-?)?(\d+)\s*(?:-|to|\u2013|\.\.)\s*(?:[a-z]+-?)?(\d+)$/i.exec(part);
    const single = /^(?:[a-z]+-?)?(\d+)$/i.exec(part);
    const [from, to] = range
      ? [Number(range[1]), Number(range[2])]
      : single
        ? [Number(single[1]), Number(single[1])]
        : [1, 0];
    for (const number of numbers)
      if (sequence(number) >= from && sequence(number) <= to) wanted.add(number);
  }
  return wanted;
}
