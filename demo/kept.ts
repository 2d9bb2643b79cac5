import type { Db } from '../src/data/database';
import { KEPT_VIEWS } from '../src/data/keptviews';
import { REPORTS } from '../src/data/reports';

/** Views that the lead keeps, and the report that she makes of them. */
export function keepSome(db: Db, leadId: string): void {
  const kept = { ownerId: leadId, forAll: true, days: { last: 7 } };
  KEPT_VIEWS.write(db, 'view_all', 'Everything', { ...kept, path: '/review', address: {} });
  KEPT_VIEWS.write(db, 'view_queues', 'Queues', { ...kept, path: '/review/queues', address: {} });
  KEPT_VIEWS.write(db, 'view_hire', 'New hire by chat', {
    ...kept,
    path: '/review/queues/queue_newhire',
    address: { channel: 'chat' },
  });
  REPORTS.write(db, 'report_month', 'How the month went', {
    ownerId: leadId,
    forAll: true,
    months: 1,
    parts: [
      { viewId: 'view_all', said: 'A month like any other: the goal was held, and nobody waited long.' },
      { viewId: 'view_queues', said: 'Repairs and New hire bring nearly half of what comes.' },
      { viewId: 'view_hire', said: '' },
    ],
  });
}
