import { LaneError } from '@/core/errors';
import type { Services } from '@/services';
import type { Actor } from '@/services/actor';
import { readJson, replyTo } from '../../reply';
import { services } from '../../../services';

/** Settings are changed by these acts; each checks its own right and parses its own input. */
const ACTS: Readonly<Record<string, (s: Services, actor: Actor, input: unknown) => unknown>> = {
  'save-person': (s, actor, input) => s.people.save(actor, input),
  'set-levels': (s, actor, input) => s.people.setLevels(actor, input),
  'save-profile': (s, actor, input) => s.people.saveProfile(actor, input),
  'preview-queue': (s, actor, input) => s.queues.preview(actor, input),
  'save-queue': (s, actor, input) => s.queues.save(actor, input),
  'save-door': (s, actor, input) => s.doors.save(actor, input),
  'save-hours': (s, actor, input) => s.doors.saveHours(actor, input),
  'save-bot': (s, actor, input) => s.bots.save(actor, input),
  'publish-bot': (s, actor, input) => s.bots.publish(actor, input),
  'bot-version-live': (s, actor, input) => s.bots.goLive(actor, input),
  'would-ask': (s, actor, input) => s.bots.wouldAsk(actor, input),
};

export const POST = (request: Request, { params }: { params: Promise<{ act: string }> }) => replyTo(async (actor) => {
  const { act } = await params;
  const work = Object.hasOwn(ACTS, act) ? ACTS[act] : undefined;
  if (!work) throw new LaneError('not-found', `There is no act called ${act}.`);
  return work(services(), actor, await readJson(request));
});
