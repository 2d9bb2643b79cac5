import { csvFile, query, replyTo } from '../reply';
import { services } from '../../services';

export const GET = (request: Request) =>
  replyTo(request, async (actor) =>
    csvFile(await services().reading('review-csv', actor, query(request), request.signal)),
  );
