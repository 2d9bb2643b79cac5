import { bearer, keyOf, readJson, reply } from '../../../../reply';
import { services } from '../../../../../services';

type Context = { params: Promise<{ id: string }> };

export const POST = (request: Request, { params }: Context) =>
  reply(
    async () => services().channel.say((await params).id, bearer(request), await readJson(request), keyOf(request)),
    201,
  );
