import { fileParts, query, replyTo } from '../reply';
import { services } from '../../services';

export const GET = (request: Request) =>
  replyTo(request, (actor) =>
    fileParts({ name: 'contacts.ndjson', type: 'application/x-ndjson; charset=utf-8' }, (after) =>
      services().reading('contacts-file', actor, { ...query(request), format: 'ndjson', after }, request.signal),
    ),
  );
