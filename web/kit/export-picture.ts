/** Hands a file to the browser. */
export function saveFile(name: string, type: string, content: string): void {
  const address = URL.createObjectURL(new Blob([content], { type }));
  const link = document.createElement('a');
  link.href = address;
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(address), 1000);
}

/** The chart inside an element as an SVG file of its own: colours of the theme written out. */
export function saveSvg(element: HTMLElement, name: string): void {
  const svg = element.querySelector('svg.recharts-surface');
  if (!svg) return;
  const copy = svg.cloneNode(true) as SVGElement;
  const style = getComputedStyle(document.documentElement);
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
  copy.setAttribute('style', `background:${style.getPropertyValue('--sheet').trim()}`);
  const text = new XMLSerializer()
    .serializeToString(copy)
    .replace(/var\((--[\w-]+)\)/g, (_, token: string) => style.getPropertyValue(token).trim());
  saveFile(name, 'image/svg+xml', text);
}
