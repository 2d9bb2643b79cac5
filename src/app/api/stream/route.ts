import { noticesFor } from '@/services/floor/stream';
import { eventStream } from '../eventstream';
import { replyTo } from '../reply';
import { services } from '../../services';

export const GET = (request: Request) =>
  replyTo((actor) => eventStream(request, noticesFor(services(), actor), actor.personId));
