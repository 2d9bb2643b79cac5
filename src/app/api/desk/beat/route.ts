import { readJson, replyTo } from '../../reply';
import { services } from '../../../services';

export const POST = (request: Request) =>
  replyTo(request, async (actor) => services().desk.beat(actor, await readJson(request)), { alone: true });
