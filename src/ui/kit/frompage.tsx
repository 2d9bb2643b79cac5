import type { ContactView } from '@/services/floor/contactview';

/** The page somebody writes from and where they are. It is what their browser says, so it is shown and not led to. */
export const FromPage = ({ page }: { page: NonNullable<ContactView['page']> }) => (
  <dl>
    <div className="flex border-t border-rule py-1 text-small">
      <dt className="w-28 shrink-0 text-ink-2">Writes from</dt>
      <dd className="min-w-0 flex-1 break-all">{page.address}</dd>
    </div>
    {page.place !== null && (
      <div className="flex border-t border-rule py-1 text-small">
        <dt className="w-28 shrink-0 text-ink-2">Place</dt>
        <dd className="min-w-0 flex-1">{page.place}</dd>
      </div>
    )}
  </dl>
);
