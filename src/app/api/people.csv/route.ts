import { csvParts, query, replyTo } from '../reply';
import { services } from '../../services';

export const GET = (request: Request) =>
  replyTo(request, (actor) =>
    csvParts('people.csv', (after) =>
      services().reading('people-csv', actor, { team: query(request).team ?? '', after }, request.signal),
    ),
  );
