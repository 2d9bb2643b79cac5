import type { KeptSummary } from '@/services/customers/customers';

/** What a contact came to; marked where nobody said so and it was made of its own words. */
export const WhatItCameTo = ({ summary }: { summary: KeptSummary | null }) =>
  summary === null ? null : (
    <p className="mb-3 rounded-control bg-sunk px-3 py-2 text-small whitespace-pre-line">
      <span className="text-ink-2">{summary.by === null ? 'Summary, automatic' : `Summary by ${summary.by}`}: </span>
      {summary.words}
    </p>
  );
