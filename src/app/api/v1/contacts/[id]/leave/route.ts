import { bearer, reply } from '../../../../reply';
import { services } from '../../../../../services';

type Context = { params: Promise<{ id: string }> };

export const POST = (request: Request, { params }: Context) =>
  reply(async () => services().channel.leave((await params).id, bearer(request)));
