import { readJson, reply } from '../reply';
import { services } from '../../services';

/** Asks for a link by mail. Known and unknown addresses are answered alike. */
export const POST = (request: Request) => reply(async () => services().newPassword.ask(await readJson(request)));

/** Sets another password by such a link. */
export const PUT = (request: Request) => reply(async () => services().newPassword.set(await readJson(request)));
