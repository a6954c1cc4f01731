import { renderToBuffer } from '@react-pdf/renderer';
import type { DisputeSnapshot } from '../dispute-snapshot';
import type { ReportSnapshot } from '../report-snapshot';
import { DisputeDocument } from './dispute-document';
import { ReportDocument } from './document';
import { printed } from '../printable';
import { registerFonts } from './fonts';

/** The PDF of a frozen snapshot. Runs in a worker. */
export async function renderReport(snapshot: ReportSnapshot): Promise<Uint8Array> {
  registerFonts();
  return new Uint8Array(await renderToBuffer(<ReportDocument snapshot={printed(snapshot)} />));
}

/** The PDF of a frozen dispute file. Runs in a worker. */
export async function renderDispute(snapshot: DisputeSnapshot): Promise<Uint8Array> {
  registerFonts();
  return new Uint8Array(await renderToBuffer(<DisputeDocument snapshot={printed(snapshot)} />));
}
