import { readJson, replyTo } from '../../reply';
import { services } from '../../../services';

/** Blocks of levels and calendars are larger than what the public interface takes. */
const MOST_BYTES = 1024 * 1024;

/** Settings are changed by acts, each under its name. */
export const POST = (request: Request, { params }: { params: Promise<{ act: string }> }) =>
  replyTo(async (actor) => services().act((await params).act, actor, await readJson(request, MOST_BYTES)));
