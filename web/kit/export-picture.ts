import { save } from './save-file';

/** Hands text to the browser as a file. */
export const saveFile = (name: string, type: string, content: string): void =>
  save(new Blob([content], { type }), name);

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
