import { csvFile, query, replyTo } from '../reply';
import { services } from '../../services';

export const GET = (request: Request) => replyTo((actor) => csvFile(services().review.csv(actor, query(request))));
