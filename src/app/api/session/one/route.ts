import { readJson, replyTo } from '../../reply';
import { services } from '../../../services';

/** Ends one of one's own sessions. */
export const DELETE = (request: Request) =>
  replyTo(request, async (actor) => services().sessions.endOne(actor, await readJson(request)));
