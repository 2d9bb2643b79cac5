import { readJson, reply } from '../reply';
import { services } from '../../services';

/** Accepts an invitation with a password; the link in the mail leads to the page that posts here. */
export const POST = (request: Request) => reply(async () => services().invitations.accept(await readJson(request)));
