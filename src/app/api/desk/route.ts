import { keyOf, readJson, replyTo } from '../reply';
import { services } from '../../services';

const SINCE_MS = 12 * 3_600_000;

export const GET = (request: Request) =>
  replyTo(request, (actor) => services().desk.view(actor, services().host.times.floor() - SINCE_MS));
export const POST = (request: Request) =>
  replyTo(request, async (actor) => services().desk.act(actor, await readJson(request), keyOf(request)));
