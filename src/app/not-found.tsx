import { Link } from '@/ui/kit/link';

export default function NotFound() {
  return (
    <main className="mx-auto mt-24 max-w-md rounded-panel border border-rule bg-sheet p-6">
      <h1 className="text-panel">There is no such page</h1>
      <p className="mt-2 text-ink-2">The address may be mistyped, or the thing was deleted.</p>
      <Link href="/" className="mt-4 inline-block font-medium text-plum underline">
        Go to the start
      </Link>
    </main>
  );
}
