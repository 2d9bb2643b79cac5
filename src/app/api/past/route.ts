import { query, readJson, replyTo } from '../reply';
import { services } from '../../services';

const MOST_BYTES = 4 * 1024 * 1024;

/** Takes a chunk of a file that was begun by `past-begin`: whole lines; of CSV with its first line before them. */
export const POST = (request: Request) =>
  replyTo(request, async (actor) => {
    const { id = '', place = '', line = '' } = query(request);
    const chunk = { id, place: Number(place), line: Number(line) };
    return services().past.take(actor, chunk, await readJson(request, MOST_BYTES));
  });
