import { replyTo } from '../../reply';
import { services } from '../../../services';

export const POST = (request: Request) => replyTo(request, (actor) => services().desk.beat(actor), { alone: true });
