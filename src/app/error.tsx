'use client';

import { useEffect, useState } from 'react';
import { Button } from '@/ui/kit/button';

/** A page that could not be shown, with what the server knows of why. */
export default function Failed({ reset }: { error: Error; reset: () => void }) {
  const [why, setWhy] = useState('Something went wrong here. Nothing that was saved is lost.');
  useEffect(() => {
    void fetch('/api/trouble')
      .then((answer) => answer.json() as Promise<{ sentence: string | null }>)
      .then(
        ({ sentence }) => {
          if (sentence) setWhy(sentence);
        },
        () => setWhy('Usher Lane cannot be reached. It may be starting anew; try again in a moment.'),
      );
  }, []);
  return (
    <main className="mx-auto mt-24 max-w-md rounded-panel border border-rule bg-sheet p-6">
      <h1 className="text-panel">This page could not be shown</h1>
      <p className="mt-2 text-ink-2" role="alert">
        {why}
      </p>
      <div className="mt-4">
        <Button kind="primary" onClick={reset}>
          Try again
        </Button>
      </div>
    </main>
  );
}
