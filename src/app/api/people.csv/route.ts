import { csvFile, query, replyTo } from '../reply';
import { services } from '../../services';

export const GET = (request: Request) =>
  replyTo((actor) => csvFile(services().peopleImport.csv(actor, query(request).team ?? '')));
