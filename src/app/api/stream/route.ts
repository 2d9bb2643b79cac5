import { holdsWhileSignedIn, noticesFor } from '@/services/floor/stream';
import { eventStream } from '../eventstream';
import { replyTo } from '../reply';
import { services, sessionToken } from '../../services';

export const GET = (request: Request) =>
  replyTo(request, async (actor) =>
    eventStream(
      request,
      noticesFor(services(), actor),
      actor.personId,
      holdsWhileSignedIn(services(), await sessionToken(), actor),
    ),
  );
