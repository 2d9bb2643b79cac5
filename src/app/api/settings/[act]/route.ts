import { LARGE_ACTS } from '@/services/settingsacts';
import { readJson, replyTo } from '../../reply';
import { services } from '../../../services';

/** What carries a file, a whole script or a block of levels may be this large, bytes. */
const MOST_BYTES = 1024 * 1024;

/** Settings are changed by acts, each under its name. */
export const POST = (request: Request, { params }: { params: Promise<{ act: string }> }) =>
  replyTo(request, async (actor) => {
    const { act } = await params;
    return services().act(act, actor, await readJson(request, LARGE_ACTS.has(act) ? MOST_BYTES : undefined));
  });
