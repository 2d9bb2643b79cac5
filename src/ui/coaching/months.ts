/** A month as it is read: Nov 2026. */
export const monthName = (month: string): string =>
  new Intl.DateTimeFormat('en-GB', { month: 'short', year: 'numeric', timeZone: 'UTC' }).format(
    Date.parse(`${month}-15T00:00Z`),
  );

/** The month that is so many after another; before it where that is negative. */
export const monthFrom = (month: string, months: number): string =>
  new Date(Date.UTC(Number(month.slice(0, 4)), Number(month.slice(5, 7)) - 1 + months, 15)).toISOString().slice(0, 7);
