import { readJson, reply } from '../reply';
import { services } from '../../services';

/** The first owner begins; the address that the server printed leads to the page that posts here. */
export const POST = (request: Request) => reply(async () => services().firstStart.begin(await readJson(request)));
