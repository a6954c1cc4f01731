import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';

/** A text as it is set on a page: its box from the left and from the foot, points. */
export interface SetText {
  text: string;
  left: number;
  right: number;
  foot: number;
  head: number;
}

/** A page of a PDF with its width and its texts. */
export interface PdfPage {
  width: number;
  texts: SetText[];
}

/** Every text of every page, where it stands. */
export async function pdfPages(pdf: Uint8Array): Promise<PdfPage[]> {
  const document = await getDocument({ data: new Uint8Array(pdf), verbosity: 0 }).promise;
  return Promise.all(
    Array.from({ length: document.numPages }, async (_, i) => {
      const page = await document.getPage(i + 1);
      const { items } = await page.getTextContent();
      const texts = items.flatMap((item) => {
        if (!('str' in item) || item.str.trim() === '') return [];
        const [, , , size, x, y] = item.transform as number[];
        const [left, foot] = [x!, y!];
        // Capitals reach about seven tenths of the size, tails a fifth below the line.
        return [
          {
            text: item.str,
            left,
            right: left + item.width,
            foot: foot - 0.2 * size!,
            head: foot + 0.7 * size!,
          },
        ];
      });
      return { width: page.view[2]!, texts };
    }),
  );
}

/** Texts may touch by so much, points: letters of one word are kerned, and set as several texts. */
const TOUCH = 3;

/** Pairs of texts set over one another, and texts that run off their page. */
export function overprints(pages: readonly PdfPage[]): string[] {
  return pages.flatMap(({ width, texts }, at) => [
    ...texts.flatMap((one, i) =>
      texts
        .slice(i + 1)
        .filter(
          (other) =>
            one.left < other.right - TOUCH &&
            other.left < one.right - TOUCH &&
            one.foot < other.head - TOUCH &&
            other.foot < one.head - TOUCH,
        )
        .map((other) => `page ${at + 1}: “${one.text}” over “${other.text}”`),
    ),
    ...texts
      .filter(({ left, right }) => left < 0 || right > width - 40)
      .map(({ text }) => `page ${at + 1}: “${text}” runs off the page`),
  ]);
}
