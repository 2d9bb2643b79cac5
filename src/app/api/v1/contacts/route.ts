import { keyOf, readJson, reply } from '../../reply';
import { services } from '../../../services';

export const POST = (request: Request) =>
  reply(async () => services().channel.start(await readJson(request), keyOf(request)), 201);
