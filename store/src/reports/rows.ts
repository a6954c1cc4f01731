/** `system` is no person: what the app does by itself. */
export interface ReportRow {
  id: number;
  number: string;
  lotId: number;
  customer: string;
  /** Canonical JSON. */
  snapshot: string;
  sha256: string;
  pdf: Buffer;
  personId: number;
  createdAt: Date;
}
