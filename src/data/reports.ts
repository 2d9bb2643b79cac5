import { documents } from './documents';

/** One of a report's parts: a kept view, and what its writer says of it. */
export type ReportPart = { readonly viewId: string; readonly said: string };
/** Kept views in order with one's own sentences, over so many months up to the last whole one. */
export const REPORTS = documents<{
  readonly ownerId: string;
  readonly forAll: boolean;
  readonly months: number;
  readonly parts: readonly ReportPart[];
}>('report');

/** A row of figures, one for each month; with what it is, so that it says so for good. */
export type ReportRow = {
  /** The figure, or of a list the thing that its row is about. */
  readonly id: string;
  readonly name: string;
  readonly unit: string;
  readonly formula: string;
  readonly values: readonly (number | null)[];
};
export type ReportTable = {
  readonly viewId: string;
  readonly name: string;
  readonly said: string;
  /** What a list is of; null where rows are figures. */
  readonly listOf: string | null;
  readonly rows: readonly ReportRow[];
  /** Why it has no figures: its view is gone, or its reader may not see it. */
  readonly missing: string | null;
};
/** A month: its first and its last day. */
export type ReportMonth = { readonly from: string; readonly to: string };
export type ReportFigures = { readonly months: readonly ReportMonth[]; readonly tables: readonly ReportTable[] };

/** A report as it was sent: when, to whom (its sender among them), and what it said. */
export const SENT_REPORTS = documents<{
  readonly reportId: string;
  readonly ownerId: string;
  readonly floorAt: number;
  readonly personIds: readonly string[];
  /** Whose copy has not been made yet. */
  readonly left: readonly string[];
  readonly months: number;
  readonly parts: readonly ReportPart[];
}>('sent-report');

/** What somebody was sent, as they could see it then. */
export const REPORT_COPIES = documents<{ readonly figures: ReportFigures }>('report-copy');
export const copyId = (sentId: string, personId: string): string => `${sentId} ${personId}`;
