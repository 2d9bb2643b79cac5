import { query, replyTo } from '../../reply';
import { services } from '../../../services';

/** What live pages read again when something changed. */
export const GET = (request: Request, { params }: { params: Promise<{ view: string }> }) =>
  replyTo(request, async (actor) => services().read((await params).view, actor, query(request), request.signal));
