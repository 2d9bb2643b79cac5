import { query, replyTo } from '../reply';
import { services } from '../../services';

export const GET = (request: Request) =>
  replyTo(request, (actor) => {
    const { name, text } = services().hours.calendar(actor, query(request).id ?? '');
    return new Response(text, {
      headers: {
        'content-type': 'text/calendar; charset=utf-8',
        'content-disposition': `attachment; filename="${name}"`,
        'cache-control': 'no-store',
      },
    });
  });
