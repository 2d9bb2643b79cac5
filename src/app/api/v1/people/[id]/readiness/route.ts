import { replyTo } from '../../../../reply';
import { services } from '../../../../../services';

export const GET = (request: Request, { params }: { params: Promise<{ id: string }> }) =>
  replyTo(request, async (actor) => services().readiness.of(actor, (await params).id));
