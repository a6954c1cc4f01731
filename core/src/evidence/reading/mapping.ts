import type { Role } from './roles';

/** How a person assigned the columns of a log that was not, or wrongly, recognised. */
export interface LogMapping {
  /** One per column of the table, in file order; unit as text, null for none. */
  columns: { role: Role; unit: string | null }[];
  /** Whether positive current discharges; null leaves it to the reader. */
  positiveDischarges: boolean | null;
}
