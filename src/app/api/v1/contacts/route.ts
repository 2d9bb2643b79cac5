import { bearer, keyOf, readJson, reply } from '../../reply';
import { clientOf, services } from '../../../services';
import { speakerBy } from '@/services/contacts/speaker';

/** A server sends a key of the door with it; a browser sends none, and may only start chats. */
export const POST = (request: Request) =>
  reply(async () => {
    const { channel, host } = services();
    const speaker = speakerBy(host, bearer(request), clientOf(request).network);
    return channel.begin(speaker, await readJson(request), keyOf(request));
  }, 201);
