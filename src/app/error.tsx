'use client';

import { Button } from '@/ui/kit/button';

export default function Failed({ reset }: { error: Error; reset: () => void }) {
  return (
    <main className="mx-auto mt-24 max-w-md rounded-panel border border-rule bg-sheet p-6">
      <h1 className="text-panel">This page could not be shown</h1>
      <p className="mt-2 text-ink-2">Something went wrong here. Nothing that was saved is lost.</p>
      <div className="mt-4">
        <Button kind="primary" onClick={reset}>
          Try again
        </Button>
      </div>
    </main>
  );
}
