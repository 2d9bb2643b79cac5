import { LaneError } from '@/core/errors';
import { STAND_IN } from '@/services/contacts/speaker';
import { keyOf, readJson, reply } from '../../reply';
import { reached, services } from '../../../services';

/**
 * The Handset's own side: it begins contacts by any door, as anybody, and is there only where stand-ins are on. All that
 * follows goes by the public interface.
 */
export const POST = (request: Request) =>
  reply(async () => {
    if (!reached().standIns) throw new LaneError('not-found', 'There are no simulated telephones here.');
    return services().channel.begin(STAND_IN, await readJson(request), keyOf(request));
  }, 201);
