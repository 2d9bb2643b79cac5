import { query, readBytes, replyTo } from '../../reply';
import { services } from '../../../services';

const MOST_BYTES = 8 * 1024 * 1024;

/** Begins an import with a CSV file as the body; it is followed and kept by the acts that begin with `import-`. */
export const POST = (request: Request) =>
  replyTo(
    request,
    async (actor) =>
      services().peopleImport.begin(actor, await readBytes(request, MOST_BYTES), query(request).name ?? 'people.csv'),
    { status: 201 },
  );
