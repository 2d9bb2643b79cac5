import { services } from '../../../../services';
import { reply, unchanging } from '../../../reply';

/** A picture that a bot shows. Its id is the digest of its bytes, so that it never changes. */
export const GET = (_request: Request, { params }: { params: Promise<{ id: string }> }) =>
  reply(async () => unchanging(services().images.read((await params).id)));
