import type { HoldLimits } from '@dusk-tally/core/verdicts';

/** `system` is no person: what the app does by itself. */
export type Role = 'technician' | 'lead' | 'admin' | 'system';

export interface SettingsRow {
  id: number;
  labName: string;
  place: string;
  currency: string;
  timeZone: string;
  guardFactor: number;
  /** Coldest and warmest the lab keeps its room, °C; both null where it keeps none. */
  roomLowC: number | null;
  roomHighC: number | null;
  cellPrefix: string;
  /** Changed limits of holds; null for the house’s. */
  holdLimits: Partial<HoldLimits> | null;
  /** The mark reports carry; null for none. */
  markId: number | null;
  /** Language reports are written in. */
  language: ReportLanguage;
  /** What a kWh in good cells is to cost; null where nobody said. */
  targetCentsPerKwh: number | null;
  version: number;
}
/** Languages reports are written in. */
export type ReportLanguage = 'en' | 'de';
/** A mark as reports carry it, made again from its pixels. */
export interface ReportMarkRow {
  id: number;
  png: Buffer;
  width: number;
  height: number;
  sha256: string;
  personId: number;
  at: Date;
}
export interface SeriesRow {
  name: string;
  next: number;
}
export interface PersonRow {
  id: number;
  email: string;
  name: string;
  role: Role;
  passwordHash: string;
  /** Made for one sign-in: it must be changed before anything else. */
  passwordIsOnce: boolean;
  active: boolean;
  sessionEpoch: number;
  createdAt: Date;
  version: number;
}
/** Widths of the columns of a table, px, as a person left them. */
export interface ColumnWidthsRow {
  personId: number;
  tableName: string;
  widths: Record<string, number>;
}
/** An act that was done, by the key it was sent with. */
export interface DoneActRow {
  /** Key of the press, a UUID. */
  id: string;
  personId: number;
  /** SHA-256 of what was sent. */
  inputHash: string;
  /** What came of it, in the structured clone format; null where it is shown only once. */
  result: Buffer | null;
  at: Date;
}
export interface SignInFailureRow {
  id: number;
  email: string;
  /** Where the attempt came from, such as an IP address; empty where that is not known. */
  place: string;
  at: Date;
}
/** Where a person signed in from. */
export type SignInPlaceRow = SignInFailureRow;
export interface AuditRow {
  id: number;
  at: Date;
  personId: number | null;
  personName: string;
  act: string;
  subjectType: string;
  subjectId: string;
  before: unknown;
  after: unknown;
  previousHash: string;
  hash: string;
}
