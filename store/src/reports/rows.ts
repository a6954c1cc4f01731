/** A report as it was issued. */
export interface ReportRow {
  id: number;
  number: string;
  lotId: number;
  customer: string;
  /** Canonical JSON. */
  snapshot: string;
  sha256: string;
  /** Of reports issued before PDFs stood on their own; null for later ones. */
  pdf: Buffer | null;
  personId: number;
  createdAt: Date;
}
/** The PDF made from a report’s snapshot. */
export interface ReportPdfRow {
  reportId: number;
  pdf: Buffer;
  at: Date;
}
