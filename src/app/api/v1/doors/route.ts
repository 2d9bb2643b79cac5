import { reply } from '../../reply';
import { services } from '../../../services';

export const GET = () => reply(() => ({ doors: services().channel.doors() }));
