import { FOR_GOOD, noticesForContact } from '@/services/floor/stream';
import { eventStream } from '../../../../eventstream';
import { bearer, query, reply } from '../../../../reply';
import { services } from '../../../../../services';

type Context = { params: Promise<{ id: string }> };

/** A browser's EventSource cannot send headers, so the token may also come in the query here. */
export const GET = (request: Request, { params }: Context) =>
  reply(async () => {
    const { id } = await params;
    services().channel.read(id, bearer(request) ?? query(request).token ?? null, Number.MAX_SAFE_INTEGER);
    return eventStream(request, noticesForContact(id), id, FOR_GOOD);
  });
