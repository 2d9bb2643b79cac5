import { replyTo } from '../../reply';
import { services } from '../../../services';

export const POST = () => replyTo((actor) => services().desk.beat(actor));
