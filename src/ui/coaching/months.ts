/** A month as it is read: Nov 2026. */
export const monthName = (month: string): string =>
  new Intl.DateTimeFormat('en-GB', { month: 'short', year: 'numeric', timeZone: 'UTC' }).format(
    Date.parse(`${month}-15T00:00Z`),
  );
