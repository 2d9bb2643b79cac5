'use client';

import { Button } from './button';
import { sentence } from './call';

/** What stands where something is still being read, or could not be: then why, and trying again. */
export const Looking = ({
  error,
  onAgain,
  what = 'Looking…',
}: {
  error: unknown;
  onAgain: () => unknown;
  what?: string;
}) =>
  error ? (
    <p role="alert" className="py-2 text-small text-clay">
      {sentence(error)}{' '}
      <Button small onClick={() => void onAgain()}>
        Try again
      </Button>
    </p>
  ) : (
    <p role="status" className="py-2 text-small text-ink-2">
      {what}
    </p>
  );
