import { query, replyTo } from '../reply';
import { services } from '../../services';

export const GET = (request: Request) => replyTo((actor) => {
  const { name, text } = services().peopleImport.csv(actor, query(request).team ?? '');
  return new Response(text, { headers: { 'content-type': 'text/csv; charset=utf-8', 'content-disposition': `attachment; filename="${name}"`, 'cache-control': 'no-store' } });
});
