import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';

/** All text of a PDF, page by page, words in the order they were set. */
export async function pdfText(pdf: Uint8Array): Promise<string> {
  const document = await getDocument({ data: new Uint8Array(pdf), verbosity: 0 }).promise;
  const pages = await Promise.all(
    Array.from({ length: document.numPages }, async (_, i) => {
      const { items } = await (await document.getPage(i + 1)).getTextContent();
      return items.map((item) => ('str' in item ? item.str : '')).join(' ');
    }),
  );
  return pages.join('\n').replace(/\s+/g, ' ');
}
