import { services } from '../../../../services';
import { reply, unchanging } from '../../../reply';

/** A recording that callers hear. Its id is the digest of its bytes, so that it never changes. */
export const GET = (_request: Request, { params }: { params: Promise<{ id: string }> }) =>
  reply(async () => unchanging(services().recordings.sound((await params).id)));
