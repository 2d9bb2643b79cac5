import { csvParts, query, replyTo } from '../reply';
import { services } from '../../services';

export const GET = (request: Request) =>
  replyTo(request, (actor) =>
    csvParts('contacts.csv', (after) =>
      services().reading('contacts-file', actor, { ...query(request), after }, request.signal),
    ),
  );
