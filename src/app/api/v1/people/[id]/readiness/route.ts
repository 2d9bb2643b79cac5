import { replyTo } from '../../../../reply';
import { services } from '../../../../../services';

export const GET = (_request: Request, { params }: { params: Promise<{ id: string }> }) =>
  replyTo(async (actor) => services().readiness.of(actor, (await params).id));
