export { CAUTIONS, type ReportedFigure, type ReportedItem, type ReportSnapshot } from '../compute';
export * from './reports';
export { makeSnapshot } from './make-snapshot';
export { requirePrintable } from './printable';
