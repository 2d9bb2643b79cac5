import { LaneError } from '@/core/errors';
import type { Services } from '@/services';
import type { Actor } from '@/services/actor';
import { query, replyTo } from '../../reply';
import { services } from '../../../services';

/** What live pages read again when something changed; each checks its own right. */
const VIEWS: Readonly<Record<string, (s: Services, actor: Actor, asked: Record<string, string>) => unknown>> = {
  strip: (s, actor) => s.floorView.strip(actor),
  floor: (s, actor) => s.floorView.view(actor),
  contact: (s, actor, asked) => s.floorView.contact(actor, asked.id ?? ''),
  people: (s, actor) => s.people.view(actor),
  queues: (s, actor) => s.queues.view(actor),
  doors: (s, actor) => s.doors.view(actor),
  bots: (s, actor) => s.bots.list(actor),
  bot: (s, actor, asked) => s.bots.view(actor, asked.id ?? ''),
  review: (s, actor, asked) => s.review.view(actor, asked),
  behind: (s, actor, asked) => s.review.behind(actor, asked),
  places: (s, actor) => s.search.places(actor),
};

export const GET = (request: Request, { params }: { params: Promise<{ view: string }> }) => replyTo(async (actor) => {
  const { view } = await params;
  const read = Object.hasOwn(VIEWS, view) ? VIEWS[view] : undefined;
  if (!read) throw new LaneError('not-found', `There is no view called ${view}.`);
  return read(services(), actor, query(request));
});
